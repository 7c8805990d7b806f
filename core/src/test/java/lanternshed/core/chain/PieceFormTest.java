package lanternshed.core.chain;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The form of a part, the part itself, and the kinds that ship say the same. */
class PieceFormTest {
  private static final JsonMapper JSON = JsonMapper.shared();
  private final JsonNode form = JSON.readTree(Piece.schema());

  private static void agrees(JsonNode shape, Class<?> record) {
    List<String> fields =
        Arrays.stream(record.getRecordComponents()).map(RecordComponent::getName).toList();
    assertThat(shape.get("properties").propertyNames()).containsExactlyInAnyOrderElementsOf(fields);
  }

  @Test
  void everyFieldOfAPartStandsInTheForm() {
    agrees(form, Piece.class);
    agrees(form.at("/properties/host"), Piece.End.class);
    agrees(form.at("/properties/card"), Piece.End.class);
    agrees(form.at("/properties/price"), Piece.Price.class);
    agrees(form.at("/properties/settings/items"), Piece.Setting.class);
    agrees(form.at("/properties/says/items"), Piece.Said.class);
  }

  @Test
  void everyKindThatShipsIsWhatTheFormDescribes() {
    Schema schema =
        SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(Piece.schema());
    for (Piece p : Piece.shipped()) {
      assertThat(schema.validate(JSON.readTree(p.text()))).as(p.key()).isEmpty();
    }
    String other = Piece.shipped().get(0).text().replace("ata40", "nothing");
    assertThat(schema.validate(JSON.readTree(other))).isNotEmpty();
  }

  /** A joint of power alone is offered for power, and for nothing else. */
  @Test
  void theJointsOfferedAreThoseThereAre() {
    List<String> ends = offered("/properties/host/properties/joint");
    List<String> power = offered("/properties/needs/items");
    assertThat(ends).contains("ata40", "cf50").doesNotContain("power4");
    assertThat(power).contains("power4").doesNotContain("ata40");
    assertThat(ends.size() + power.size()).isEqualTo(Joint.all().size());
  }

  private List<String> offered(String at) {
    return StreamSupport.stream(form.at(at).get("oneOf").spliterator(), false)
        .map(o -> o.get("const").asString())
        .toList();
  }
}
