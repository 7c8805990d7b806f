package lanternshed.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** The application: the core's knowledge behind an API, with what is known kept in PostgreSQL. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class LanternShed {
  public static void main(String[] args) {
    SpringApplication.run(LanternShed.class, args);
  }
}
