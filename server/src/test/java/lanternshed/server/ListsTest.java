package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** However much lies in the shed, a list asks the database a constant number of times. */
class ListsTest {
  private static final int MANY = 400;

  /** As many as one list may ask, with the begin and end of its transactions left aside. */
  private static final int MOST = 7;

  private static final List<String> LISTS =
      List.of(
          "/api/register",
          "/api/shelf/spare",
          "/api/media",
          "/api/images",
          "/api/jobs",
          "/api/crossings",
          "/api/roms",
          "/api/certificates",
          "/api/restores",
          "/api/drawer",
          "/api/drawer/cards",
          "/api/log?words=line",
          "/api/machines");

  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = TestShed.shared();
  }

  private static void fill(Connection c) throws SQLException {
    String from = " from generate_series(1, " + MANY + ") n";
    try (Statement s = c.createStatement()) {
      s.execute(
          "insert into image (name, sha256, crc32, chunks, sectors, origin, lost, hits, created,"
              + " removed) select 'list image ' || n, md5(n::text) || md5('x' || n), '00000000', '',"
              + " 720, 'made for a list', 0, '[]', now(), n % 4 = 0"
              + from);
      s.execute(
          "insert into medium (name, kind, serial, label_bytes, sectors, real_sectors, measured,"
              + " removable, mounted, damage, file, created, holds_image, held_since) select"
              + " 'list card ' || n, 'CARD', 'list-' || n, 8000000, 15625, 15625, true, true, false,"
              + " '', 'list-' || n, now(), (select id from image where name = 'list image ' || n),"
              + " now()"
              + from);
      s.execute(
          "insert into job (version, machine, profile, fault, plan_choice, recipe, proof, closed,"
              + " created, changed, verdict, built_id) select 0, 'list machine ' || n,"
              + " 'controller-pc', '', '', '', '', false, now(), now(), '', (select id from image"
              + " where name = 'list image ' || n)"
              + from);
      s.execute(
          "insert into station (job_id, number, state, sentence, record) select j.id, k, case when k"
              + " = 1 then 'LIT' else 'DARK' end, '', '' from job j, generate_series(1, 10) k where"
              + " j.machine like 'list machine%'");
      s.execute(
          "insert into log_line (job_id, station, at, author, text, unit) select id, 1, now(),"
              + " 'somebody', 'a line', '' from job where machine like 'list machine%'");
      s.execute(
          "insert into certificate (medium_id, made, wiped, sentence, text, sha256) select id, now(),"
              + " true, 'wiped', 'wiped', 'x' from medium where name like 'list card%'");
      s.execute(
          "insert into crossing (version, image_id, volume, disk, choices, carried, at, removed)"
              + " select 0, id, 0, '', '', '', now(), false from image where name like 'list image%'");
    }
  }

  /** Others use this shed after us. */
  private static void empty(Connection c) throws Exception {
    try (Statement s = c.createStatement()) {
      for (String its :
          List.of(
              "certificate where sentence = 'wiped'",
              "crossing where image_id in (select id from image where name like 'list image%')",
              "log_line where text = 'a line'",
              "job where machine like 'list machine%'",
              "medium where name like 'list card%'",
              "image where name like 'list image%'")) {
        s.execute("delete from " + its);
      }
    }
    for (Path p : files()) Files.deleteIfExists(p);
  }

  /** What should lie on the shelf of the images. */
  private static List<Path> files() throws Exception {
    List<Path> out = new ArrayList<>();
    MessageDigest md5 = MessageDigest.getInstance("MD5");
    for (int n = 1; n <= MANY; n++) {
      byte[] a = md5.digest(String.valueOf(n).getBytes(StandardCharsets.US_ASCII));
      byte[] b = md5.digest(("x" + n).getBytes(StandardCharsets.US_ASCII));
      HexFormat hex = HexFormat.of();
      Path images = shed.home().resolve("shelf/images");
      out.add(images.resolve(hex.formatHex(a) + hex.formatHex(b) + ".img"));
    }
    return out;
  }

  /**
   * The list asks for all images at once who needs them, giving one back asks for that one: both
   * must know of the same.
   */
  private static void keptIsKeptByBothWords(Connection c) throws Exception {
    Set<Long> spare = new HashSet<>();
    shed.get("/api/shelf/spare").json().forEach(i -> spare.add(i.get("id").asLong()));
    List<Long> all = new ArrayList<>();
    try (Statement s = c.createStatement()) {
      s.execute("update medium set holds_image = null where name like 'list card %3'");
      s.execute("update job set removed = true where machine like 'list machine %3'");
      s.execute(
          "update crossing set removed = true where image_id in (select id from image where name like"
              + " 'list image %3')");
      s.execute(
          "update job set recipe = (select sha256 from image where name = 'list image 13') where"
              + " machine = 'list machine 1'");
      s.execute("update image set removed = true where name like 'list image %'");
      var rows = s.executeQuery("select id from image where name like 'list image %' order by id");
      while (rows.next()) all.add(rows.getLong(1));
    }
    assertThat(spare).doesNotContainAnyElementsOf(all);
    shed.get("/api/shelf/spare").json().forEach(i -> spare.add(i.get("id").asLong()));
    // Those whose number ends in 3, but for the one that a recipe takes.
    assertThat(all.stream().filter(spare::contains)).hasSize(MANY / 10 - 1);
    for (int n : new int[] {0, 2, 12, 22}) {
      Map<String, Object> one = Map.of("images", List.of(all.get(n)), "confirm", "1");
      String stayed = shed.post("/api/shelf/spare/give-back", one).json().get("stayed").toString();
      assertThat(stayed.contains("is needed by"))
          .as(n + stayed)
          .isEqualTo(!spare.contains(all.get(n)));
    }
  }

  @Test
  void aListAsksTheDatabaseAsOftenForManyAsForFew() throws Exception {
    Map<String, Integer> asked = new LinkedHashMap<>();
    try (Connection c = shed.database()) {
      Files.createDirectories(files().get(0).getParent());
      for (Path p : files()) Files.write(p, new byte[512]);
      fill(c);
      for (String list : LISTS) {
        shed.get(list);
        TestDatabase.Statements log = TestDatabase.get().statements(c);
        TestShed.Answer a = shed.get(list);
        assertThat(a.status()).as(list + a.text()).isEqualTo(200);
        asked.put(list, log.count());
      }
      keptIsKeptByBothWords(c);
      long damaged = shed.get("/api/certificates").json().get(0).get("id").asLong();
      assertThat(shed.get("/api/certificates/" + damaged + ".pdf").detail())
          .contains("does not read");
      empty(c);
    }
    System.out.println("statements: " + asked);
    assertThat(asked).allSatisfy((list, n) -> assertThat(n).as(list).isLessThanOrEqualTo(MOST));
  }
}
