package lanternshed.server.shell;

import io.swagger.v3.oas.models.media.Schema;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Map;
import lanternshed.core.measure.ShedException;
import org.flywaydb.core.api.MigrationInfo;
import org.flywaydb.core.api.MigrationState;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.boot.flyway.autoconfigure.FlywayMigrationStrategy;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.scheduling.concurrent.ThreadPoolTaskExecutor;
import org.springframework.web.servlet.config.annotation.AsyncSupportConfigurer;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/**
 * Serves the screens, every address without a dot being one of theirs, and completes the API's
 * text.
 */
@Configuration
public class WebConfig implements WebMvcConfigurer {
  private static final int MOST_STREAMS = 64;

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable());
    registry
        .addResourceHandler("/**")
        .addResourceLocations("classpath:/static/")
        .setCacheControl(CacheControl.noCache())
        .resourceChain(false)
        .addResolver(
            new PathResourceResolver() {
              @Override
              protected Resource getResource(String path, Resource location) throws IOException {
                Resource r = super.getResource(path, location);
                boolean screen = !path.contains(".") && !path.matches("(api|actuator|v3)(/.*)?");
                return r != null && !path.isEmpty()
                    ? r
                    : screen ? new ClassPathResource("/static/index.html") : null;
              }
            });
  }

  /** Each download has a thread of its own; a receiver that does not read holds nobody else's. */
  @Override
  public void configureAsyncSupport(AsyncSupportConfigurer configurer) {
    ThreadPoolTaskExecutor threads = new ThreadPoolTaskExecutor();
    threads.setThreadNamePrefix("stream-");
    threads.setCorePoolSize(0);
    threads.setMaxPoolSize(MOST_STREAMS);
    threads.setQueueCapacity(0);
    threads.setDaemon(true);
    threads.initialize();
    configurer.setTaskExecutor(threads);
  }

  /** A database that a newer program has changed is not touched by this one. */
  @Bean
  FlywayMigrationStrategy onlyForward() {
    return flyway -> {
      for (MigrationInfo m : flyway.info().all()) {
        if (m.getState() == MigrationState.FUTURE_SUCCESS) {
          throw new ShedException(
              "This database was used by a newer Lantern Shed (its step "
                  + m.getVersion()
                  + " is not known here). Start that version; this one would lose what the newer one"
                  + " keeps. Nothing was changed.");
        }
      }
      flyway.migrate();
    };
  }

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }

  /** No field of an answer is ever missing; the generated types then need no question marks. */
  @Bean
  OpenApiCustomizer everyFieldIsThere() {
    return api -> {
      api.getInfo().title("Lantern Shed").version("1");
      api.setServers(null);
      for (Schema<?> s : api.getComponents().getSchemas().values()) {
        Map<?, ?> properties = s.getProperties();
        if (properties == null) continue;
        s.setRequired(new ArrayList<>(properties.keySet().stream().map(String::valueOf).toList()));
      }
    };
  }
}
