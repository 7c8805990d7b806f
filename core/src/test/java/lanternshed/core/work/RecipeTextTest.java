package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A recipe that a person changes as text. */
class RecipeTextTest {
  private static final String GOOD =
      """
      {"form": "lantern shed recipe, form 3", "family": "pc", "table": "MBR",
       "strategy": "REBUILD", "sectors": 100800,
       "geometry": {"cylinders": 100, "heads": 16, "sectors": 63}, "signature": "0000beef",
       "bootCode": "OWN", "sourceSha256": "", "volumes": [
        {"start": 63, "length": 50337, "tableSector": 0, "logical": false, "active": true,
         "type": "04", "kind": "FAT16", "clusterBytes": 0, "rootEntries": 0, "label": "MILL",
         "serial": "00000001", "from": -1, "folder": "", "files": [], "systemFile": "",
         "contract": "", "longNames": false, "sectorBytes": 0}]}
      """;

  @Test
  void whatTheProgramWritesItsSchemaTakes() {
    Recipe r = RecipeText.read(GOOD);
    assertThat(RecipeText.read(r.toJson())).isEqualTo(r);
    assertThat(RecipeText.compare(GOOD, r.toJson())).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"heads\": 16|\"heads\": 0|/geometry/heads",
        "\"label\": \"MILL\"|\"label\": 7|/volumes/0/label",
        "\"OWN\"|\"MINE\"|/bootCode",
        "\"0000beef\"|\"beef\"|/signature",
        "\"longNames\": false|\"longName\": false|longName",
        "\"table\": \"MBR\",|\"table\": \"MBR\"|line",
        "\"type\": \"04\"|\"type\": \"0B\"|does not say so",
        "\"kind\": \"FAT16\"|\"kind\": \"NTFS\"|are made",
        "\"start\": 63|\"start\": 90000|does not lie inside",
        "form 3|form 9|/form",
      })
  void whatIsWrongIsNamedByItsPlace(String what, String instead, String says) {
    assertThatThrownBy(() -> RecipeText.read(GOOD.replace(what, instead)))
        .hasMessageContaining(says);
  }

  @Test
  void twoRecipesAreComparedPlaceByPlace() {
    String other = GOOD.replace("MILL", "LOOMS").replace("\"active\": true", "\"active\": false");
    assertThat(RecipeText.compare(GOOD, other))
        .isEqualTo(
            List.of(
                new RecipeText.RecipeChange("/volumes/0/active", "true", "false"),
                new RecipeText.RecipeChange("/volumes/0/label", "MILL", "LOOMS")));
    String none = GOOD.substring(0, GOOD.indexOf("{\"start\"")) + "]}";
    assertThat(RecipeText.compare(GOOD, none))
        .singleElement()
        .satisfies(d -> assertThat(d.place()).isEqualTo("/volumes/0"))
        .satisfies(d -> assertThat(d.is()).isEmpty());
    assertThat(RecipeText.schema()).contains("2020-12");
  }
}
