package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import lanternshed.core.measure.Sha256;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The ROM bench: what is brought in stays, what is made of it is another. */
class RomBenchTest {
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = TestShed.shared();
  }

  /** An option ROM of 2 KiB that returns at once, with noise behind, its sum as it comes. */
  private static byte[] option(long seed) {
    byte[] b = new byte[2048];
    new Random(seed).nextBytes(b);
    b[0] = 0x55;
    b[1] = (byte) 0xAA;
    b[2] = 4;
    b[3] = (byte) 0xCB;
    int sum = 0;
    for (byte x : b) sum += x;
    if ((sum & 0xFF) == 0) b[100]++;
    return b;
  }

  private static JsonNode add(String name, byte[] bytes) {
    TestShed.Answer a = shed.postBytes("/api/roms?name=" + name, bytes);
    assertThat(a.status()).as(a.text()).isEqualTo(201);
    return a.json();
  }

  private static long id(JsonNode rom) {
    return rom.get("id").asLong();
  }

  @Test
  void anImageIsHeldAgainstTheProcessorOfItsJobAndStandsInItsRecord() throws Exception {
    byte[] late = option(77);
    late[3] = 0x60;
    late[4] = 0x61;
    late[5] = (byte) 0xCB;
    JsonNode rom = add("late.bin", late);
    JsonNode row = shed.get("/api/roms").json().get(0);
    assertThat(row.get("needs").asString()).isEqualTo("I80186");
    Map<String, Object> begun =
        Map.of("machine", "Larkspur", "profile", "xt", "fault", "", "mediumId", 0);
    TestShed.Answer job = shed.post("/api/jobs", begun);
    assertThat(job.status()).as(job.text()).isEqualTo(201);
    long number = job.json().get("id").asLong();
    String at = "/api/roms/" + id(rom);
    long version = rom.get("version").asLong();
    JsonNode on = shed.put(at + "/job", Map.of("version", version, "job", number)).json();
    assertThat(on.get("job").get("serves").asBoolean()).isFalse();
    Map<String, Object> said =
        Map.of("version", on.get("version").asLong(), "name", "x", "note", "", "drives", 2);
    assertThat(shed.put(at, said).json().get("drives").asInt()).isEqualTo(2);
    Map<String, Object> many = new HashMap<>(said);
    many.put("drives", 9);
    assertThat(shed.put(at, many).status()).isEqualTo(400);
    assertThat(on.get("job").get("sentence").asString()).contains("needs an 80186");
    byte[] early = option(78);
    JsonNode other = add("early.bin", early);
    early[100] ^= 1;
    JsonNode change = shed.get(at + "/against/" + id(add("other.bin", early))).json();
    assertThat(change.get("sentence").asString()).contains("bytes differ");
    assertThat(change.get("places").get(0).get("means").asString()).contains("enters it");
    assertThat(
            shed.get("/api/roms/" + id(other) + "/against/" + id(other))
                .json()
                .get("sentence")
                .asString())
        .startsWith("They are the same bytes.");
    for (String sheet :
        List.of(at + "/label.pdf", at + "/fitting.pdf", "/api/jobs/" + number + "/record.pdf")) {
      byte[] pdf = shed.bytes(sheet);
      assertThat(new String(pdf, 0, 5, StandardCharsets.US_ASCII)).isEqualTo("%PDF-");
    }
  }

  @Test
  void anImageIsCorrectedFittedAndSplitAndTheOldOneStays() {
    byte[] b = option(1);
    JsonNode rom = add("mill.bin", b);
    String at = "/api/roms/" + id(rom);
    assertThat(rom.get("facts").get("findings").get(0).get("what").asString()).contains("not 00");
    assertThat(id(add("again.bin", b))).as("one content, one image").isEqualTo(id(rom));
    JsonNode right = shed.post(at + "/corrected", Map.of()).json();
    assertThat(right.get("facts").get("findings")).isEmpty();
    assertThat(right.get("madeFrom").asString()).contains("“mill.bin”, the last byte");
    assertThat(shed.bytes(at + "/file?form=RAW")).isEqualTo(b);

    String of = "/api/roms/" + id(right);
    JsonNode fitted = shed.post(of + "/fitted", Map.of("kilobits", 64, "pad", "FF")).json();
    assertThat(fitted.get("facts").get("bytes").asInt()).isEqualTo(8192);
    TestShed.Answer small = shed.post(of + "/fitted", Map.of("kilobits", 99, "pad", "FF"));
    assertThat(small.status()).isEqualTo(422);
    assertThat(small.detail()).contains("no chip of 99 kbit");

    List<Long> two = new ArrayList<>();
    shed.post(of + "/split", Map.of("ways", 2)).json().forEach(n -> two.add(n.asLong()));
    java.util.Collections.reverse(two);
    JsonNode joined = shed.post("/api/roms/joined", Map.of("ids", two)).json();
    assertThat(joined.get("sentence").asString()).contains("given in another order");
    assertThat(joined.get("id").asLong())
        .as("the same bytes are the same image")
        .isEqualTo(id(right));
  }

  @Test
  void hexadecimalTextsComeInAndGoOut() {
    byte[] b = option(2);
    JsonNode rom = add("text.bin", b);
    for (String form : List.of("INTEL", "MOTOROLA")) {
      byte[] text = shed.bytes("/api/roms/" + id(rom) + "/file?form=" + form);
      assertThat(new String(text, StandardCharsets.US_ASCII)).matches("(?s)[:S].*\n");
      JsonNode again = add("text.hex", text);
      assertThat(again.get("facts").get("sha256").asString()).isEqualTo(Sha256.of(b));
    }
    TestShed.Answer broken =
        shed.postBytes(
            "/api/roms?name=x", ":0300300002337A1F\n".getBytes(StandardCharsets.US_ASCII));
    assertThat(broken.status()).isEqualTo(422);
    assertThat(broken.detail()).startsWith("Line 1 of this hexadecimal text");
  }

  @Test
  void whatIsTooLongOrEmptyOrNamedLikeAPathIsOneSentenceOrHarmless() {
    TestShed.Answer empty = shed.postBytes("/api/roms?name=x", new byte[0]);
    assertThat(empty.status()).isEqualTo(422);
    assertThat(empty.detail()).isEqualTo("This file is empty.");
    TestShed.Answer much = shed.postBytes("/api/roms?name=x", new byte[(2 << 20) + 1]);
    assertThat(much.status()).isEqualTo(422);
    assertThat(much.detail()).contains("2.0 MiB", "Images");
    assertThat(shed.postBytes("/api/roms?name=x", new byte[(8 << 20) + 1]).detail())
        .contains("larger than 8.3 MB; nothing was kept");
    JsonNode named = add("..%2F..%2Fetc%2Fpasswd", option(3));
    assertThat(named.get("name").asString()).isEqualTo(".._.._etc_passwd");
    assertThat(shed.get("/api/roms/99999").status()).isEqualTo(404);
    assertThat(shed.post("/api/roms/joined", Map.of("ids", List.of(1))).status()).isEqualTo(400);
  }

  @Test
  void aWindowThatIsTakenIsNamedAndTheTestedJumpersWin() {
    JsonNode rom = add("window.bin", option(4));
    String at = "/api/roms/" + id(rom) + "/place";
    List<Map<String, Object>> there =
        List.of(Map.of("name", "network boot ROM", "start", 0xE0000, "length", 0x4000));
    Map<String, Object> place =
        Map.of("version", 0, "occupied", there, "carrier", "rom-board", "window", 0xE0000);
    JsonNode v = shed.put(at, place).json();
    assertThat(v.get("conflict").asString()).isEqualTo("network boot ROM");
    assertThat(v.get("jumpers").get("print").get(1).asString()).isEqualTo("J2");
    assertThat(v.get("jumpers").get("tested").get(1).asString()).isEqualTo("J3");
    TestShed.Answer late = shed.put(at, place);
    assertThat(late.status()).as("of two who come at once the second is told").isEqualTo(409);
    assertThat(late.detail()).startsWith("Somebody else changed this image");
    TestShed.Answer bad =
        shed.put(at, Map.of("version", 1, "occupied", List.of(), "carrier", "nobody", "window", 0));
    assertThat(bad.status()).isEqualTo(422);
    JsonNode run = shed.get("/api/roms/" + id(rom) + "/run").json();
    assertThat(run.get("returned").asBoolean()).isTrue();
  }

  @Test
  void aReadBackIsNamedByItsPatternAndKept() {
    byte[] b = option(5);
    JsonNode rom = add("back.bin", b);
    String at = "/api/roms/" + id(rom);
    byte[] stuck = b.clone();
    for (int i = 0; i < stuck.length; i++) stuck[i] |= 8;
    JsonNode r = shed.postBytes(at + "/read-back", stuck).json();
    assertThat(r.get("pattern").asString()).isEqualTo("STUCK_BIT");
    assertThat(r.get("sentence").asString()).contains("D3 at 1");
    assertThat(shed.postBytes(at + "/read-back", b).json().get("pattern").asString())
        .isEqualTo("IDENTICAL");
    assertThat(shed.postBytes(at + "/read-back", new byte[7]).detail())
        .contains("the chip's own size");
    assertThat(
            shed.post(at + "/stand-in", Map.of("trouble", "EXCHANGED"))
                .json()
                .get("pattern")
                .asString())
        .isEqualTo("ADDRESS_EXCHANGED");
    assertThat(shed.get(at).json().get("readings"))
        .extracting(x -> x.get("pattern").asString())
        .as("a stand-in is no chip")
        .containsExactly("IDENTICAL", "STUCK_BIT");
    byte[] blank = new byte[2048];
    Arrays.fill(blank, (byte) 0xFF);
    assertThat(shed.postBytes(at + "/over", blank).json().get("blank").asBoolean()).isTrue();
    assertThat(shed.postBytes(at + "/over", new byte[2048]).json().get("sentence").asString())
        .contains("must be 1 again");
  }

  @Test
  void whatIsTakenOutComesBack() {
    JsonNode rom = add("gone.bin", option(6));
    String at = "/api/roms/" + id(rom);
    assertThat(shed.delete(at + "?undo=false").status()).isEqualTo(204);
    assertThat(shed.get("/api/roms").json()).noneMatch(r -> r.get("id").asLong() == id(rom));
    assertThat(shed.delete(at + "?undo=true").status()).isEqualTo(204);
    assertThat(shed.get("/api/roms").json()).anyMatch(r -> r.get("id").asLong() == id(rom));
  }
}
