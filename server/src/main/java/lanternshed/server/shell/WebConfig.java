package lanternshed.server.shell;

import io.swagger.v3.oas.models.media.Schema;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Map;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/**
 * Serves the screens, every address without a dot being one of theirs, and completes the API's
 * text.
 */
@Configuration
public class WebConfig implements WebMvcConfigurer {

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
