package lanternshed.server.shell;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.deser.std.StdScalarDeserializer;
import tools.jackson.databind.module.SimpleModule;

/**
 * What no request body may hold, refused before anything is looked at: nothing where a list has its
 * members or a number stands, and the character 0 in a text, which the database does not keep.
 */
@Configuration
class JsonIn {

  @Bean
  JsonMapperBuilderCustomizer nothingWhereSomethingStands() {
    return b -> {
      b.enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES);
      for (Class<?> c : List.of(List.class, Set.class, Map.class)) {
        b.withConfigOverride(
            c, o -> o.setNullHandling(JsonSetter.Value.forContentNulls(Nulls.FAIL)));
      }
      b.addModule(new SimpleModule().addDeserializer(String.class, new Text()));
    };
  }

  /** A text without the character 0 and without halves of letters: no database keeps either. */
  private static final class Text extends StdScalarDeserializer<String> {
    Text() {
      super(String.class);
    }

    @Override
    public String deserialize(JsonParser p, DeserializationContext context) {
      String s = p.getValueAsString();
      if (s == null) return (String) context.handleUnexpectedToken(String.class, p);
      if (s.indexOf('\0') >= 0) {
        context.reportInputMismatch(String.class, "the character 0");
      }
      if (!StandardCharsets.UTF_8.newEncoder().canEncode(s)) {
        context.reportInputMismatch(String.class, "half a letter");
      }
      return s;
    }
  }
}
