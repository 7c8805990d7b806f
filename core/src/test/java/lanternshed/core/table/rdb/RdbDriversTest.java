package lanternshed.core.table.rdb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.table.TableDrivers;
import lanternshed.core.table.TableMaker.Slot;
import lanternshed.core.table.TableReading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class RdbDriversTest {
  private static final Geometry G = new Geometry(200, 16, 32);
  private static final List<Slot> SLOTS =
      List.of(
          new Slot(1024, 20_480, "DOS\\1", true, false, 0),
          new Slot(21_504, 51_200, "DOS\\3", false, false, 0));
  private static final TableDrivers DRIVERS = new RdbWriter().drivers().orElseThrow();
  private static final byte[] FILE = DriverFiles.file("$VER: ffs 40.1 (13.5.93)", 700, 1);

  private static MemoryMedium table(byte[] code) {
    MemoryMedium m = new MemoryMedium(200 * 512);
    new RdbWriter().write(m, G, code, 0, SLOTS);
    return m;
  }

  /**
   * A second reader, from the published layout alone: numbers of blocks and offsets are its own.
   */
  private static byte[] loadedAsAMachineWould(MemoryMedium m, long dosType) {
    long head = Bytes.be32(m.sector(0), 32);
    while (head != 0xFFFFFFFFL) {
      byte[] fshd = m.sector(head);
      assertThat(new String(fshd, 0, 4)).isEqualTo("FSHD");
      assertThat(sum(fshd)).isZero();
      if (Bytes.be32(fshd, 32) == dosType) {
        assertThat(Bytes.be32(fshd, 40)).as("patched: segments and globals").isEqualTo(0x180);
        assertThat(Bytes.be32(fshd, 76)).isEqualTo(0xFFFFFFFFL);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (long at = Bytes.be32(fshd, 72); at != 0xFFFFFFFFL; ) {
          byte[] lseg = m.sector(at);
          assertThat(new String(lseg, 0, 4)).isEqualTo("LSEG");
          assertThat(sum(lseg)).isZero();
          out.write(lseg, 20, (int) Bytes.be32(lseg, 4) * 4 - 20);
          at = Bytes.be32(lseg, 16);
        }
        return out.toByteArray();
      }
      head = Bytes.be32(fshd, 16);
    }
    return new byte[0];
  }

  private static long sum(byte[] block) {
    long sum = 0;
    for (int i = 0; i < Bytes.be32(block, 4); i++) sum += Bytes.be32(block, 4 * i);
    return sum & 0xFFFFFFFFL;
  }

  @ParameterizedTest
  @ValueSource(ints = {10, 116, 117, 118, 240, 3000})
  void whatWasBroughtIsWhatTheMachineLoads(int longs) {
    byte[] file = DriverFiles.file("$VER: ffs 40.1", longs, longs);
    MemoryMedium m = table(DRIVERS.with(new byte[0], "DOS\\1", "FFS", file));
    TableReading r = new Rdb().read(m).orElseThrow();
    assertThat(r.findings()).isEmpty();
    assertThat(r.drivers()).containsExactly("DOS\\1");
    byte[] loaded = loadedAsAMachineWould(m, 0x444F5301);
    assertThat(Arrays.copyOf(loaded, file.length)).isEqualTo(file);
    assertThat(loaded.length - file.length).isBetween(0, 3);
    byte[] kept = new RdbWriter().kept(m);
    assertThat(DRIVERS.file(kept, "DOS\\1")).hasValue(loaded);
    assertThat(DRIVERS.file(kept, "DOS\\3")).isEmpty();
    // Its version stands in the head, the upper figure first.
    assertThat(Bytes.be32(kept, 36)).isEqualTo(40L << 16 | 1);
  }

  @Test
  void aDriverForTheSameVolumesGivesWayAndTheOthersStay() {
    byte[] other = DriverFiles.file("$VER: ffs 44.5", 200, 2);
    byte[] kept = DRIVERS.with(new byte[0], "DOS\\1", "FFS", FILE);
    kept = DRIVERS.with(kept, "DOS\\3", "International", FILE);
    kept = DRIVERS.with(kept, "DOS\\1", "Newer", other);
    MemoryMedium m = table(kept);
    assertThat(new Rdb().read(m).orElseThrow().drivers()).containsExactly("DOS\\3", "DOS\\1");
    assertThat(Arrays.copyOf(loadedAsAMachineWould(m, 0x444F5301), other.length)).isEqualTo(other);
    assertThat(Arrays.copyOf(loadedAsAMachineWould(m, 0x444F5303), FILE.length)).isEqualTo(FILE);
  }

  @ParameterizedTest
  @CsvSource({
    "$VER: ffs 40.1 (13.5.93), 40.1",
    "$VER:ffs 34.104, 34.104",
    "$VER: a driver, ''",
    "nothing of the kind, ''"
  })
  void theVersionIsWhatItSays(String in, String version) {
    assertThat(DRIVERS.version("FFS", DriverFiles.file(in, 100, 3))).isEqualTo(version);
  }

  private static Arguments damage(String what, UnaryOperator<byte[]> how, String says) {
    return Arguments.of(what, how, says);
  }

  private static UnaryOperator<byte[]> put(int at, long value) {
    return b -> {
      Bytes.putBe32(b, at, value);
      return b;
    };
  }

  static Stream<Arguments> damages() {
    return Stream.of(
        damage("nothing", b -> new byte[0], "does not begin with 000003F3"),
        damage("a text", b -> "a text, no program".getBytes(), "does not begin with 000003F3"),
        damage("libraries", put(4, 1), "libraries by name"),
        damage("no hunk", put(8, 0), "counts hunks"),
        damage("many hunks", put(8, 5000), "counts hunks"),
        damage("large", put(20, 0x3FFFFFFF), "asks for"),
        damage("cut off", b -> Arrays.copyOf(b, b.length - 6), "in the middle"),
        damage("cut in the head", b -> Arrays.copyOf(b, 14), "in the middle"),
        damage("data first", put(36, 0x3EA), "is no code"),
        damage("more than room", put(40, 701), "more than its head"),
        damage("long code", put(20, 699), "more than its head"),
        damage("unknown part", put(44 + 2800, 0x3FF), "part of kind 3FF"),
        damage("in parts", put(44 + 2800, 0x3F5), "loaded in parts"),
        damage("strange hunk", put(44 + 2800 + 8, 9), "names hunk 9"),
        damage(
            "a place outside", put(44 + 2800 + 12, 2797), "at byte 2797, past the end of hunk 0"),
        damage("many places", put(44 + 2800 + 4, 0xFFFFFFFFL), "past the end of hunk 0"),
        damage("a long name", put(44 + 2800 + 40, 0xFFFFFFL), "in the middle"),
        damage("too long", b -> Arrays.copyOf(b, TableDrivers.MOST_BYTES + 1), "few dozen KiB"));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("damages")
  void whatNoMachineLoadsIsRefusedWithTheReason(
      String what, UnaryOperator<byte[]> how, String says) {
    byte[] damaged = how.apply(FILE.clone());
    assertThatThrownBy(() -> DRIVERS.with(new byte[0], "DOS\\1", "FFS", damaged))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("FFS is no driver")
        .hasMessageContaining(says)
        .hasMessageContaining("folder L");
  }

  /** Random structures: longs that mean something, in any order. */
  @Test
  void randomHunksAreTakenOrRefusedAndNeverMore() {
    int[] words = {
      0x3E8, 0x3E9, 0x3EA, 0x3EB, 0x3EC, 0x3F0, 0x3F1, 0x3F2, 0x3F7, 0x3FC, 0, 1, 2, 3
    };
    int refused = 0;
    for (int i = 0; i < 4000; i++) {
      Random random = new Random(i);
      byte[] b = i % 2 == 0 ? FILE.clone() : new byte[4 * (8 + random.nextInt(60))];
      if (i % 2 != 0) {
        int[] head = {0x3F3, 0, 2, 0, 1, 40, 40};
        for (int k = 0; k < head.length; k++) Bytes.putBe32(b, 4 * k, head[k]);
      }
      for (int k = random.nextInt(30); k >= 0; k--) {
        int at =
            i % 2 == 0
                ? 4 * random.nextInt(b.length / 4)
                : 28 + 4 * random.nextInt(b.length / 4 - 7);
        int word = random.nextInt(8) == 0 ? random.nextInt() : words[random.nextInt(words.length)];
        Bytes.putBe32(b, at, word);
      }
      try {
        DRIVERS.version("it", b);
      } catch (ShedException e) {
        assertThat(e.getMessage()).endsWith("in the folder L.");
        refused++;
      }
    }
    assertThat(refused).isBetween(2000, 3999);
  }

  /** P-14: what does not end, leaves the medium, turns back, or is another block. */
  @Test
  void aDriverWhoseChainDoesNotEndIsTold() {
    byte[] kept = DRIVERS.with(new byte[0], "DOS\\1", "FFS", FILE);
    long first = Bytes.be32(table(kept).sector(0), Rdb.FILESYSTEM_LIST);
    long[][] ways = {
      {first, Rdb.SEGMENTS, Rdb.END},
      {first, Rdb.SEGMENTS, 1},
      {first + 2, Rdb.NEXT, first + 1},
      {first + 2, Rdb.NEXT, 1_000_000}
    };
    for (long[] w : ways) {
      MemoryMedium m = table(kept);
      byte[] b = m.sector(w[0]);
      long was = Bytes.be32(b, (int) w[1]);
      Bytes.putBe32(b, (int) w[1], w[2]);
      Bytes.putBe32(b, Rdb.CHECKSUM, Bytes.be32(b, Rdb.CHECKSUM) + was - w[2]);
      m.write(w[0], 1, b, 0);
      assertThat(new Rdb().read(m).orElseThrow().findings())
          .singleElement()
          .satisfies(
              f -> {
                assertThat(f.rule()).isEqualTo("P-14");
                assertThat(f.what()).contains("driver for DOS\\1 do not come to an end");
              });
    }
  }
}
