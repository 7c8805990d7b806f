package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.boot.BootChain;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class BootChainTest {
  private static final Geometry G = new Geometry(240, 8, 32);

  private static void edit(MemoryMedium m, long sector, Consumer<byte[]> change) {
    byte[] b = m.sector(sector);
    change.accept(b);
    m.write(sector, 1, b, 0);
  }

  private static BootChain walk(MemoryMedium m) {
    return new PcBoot().walk(m, G, G.total());
  }

  static Stream<Arguments> links() {
    return Stream.of(
        link("B-1", m -> edit(m, 0, b -> b[510] = 0)),
        link("B-2", m -> edit(m, 0, b -> java.util.Arrays.fill(b, 0, 440, (byte) 0))),
        link("B-3", m -> edit(m, 0, b -> b[446] = 0)),
        link("B-5", m -> edit(m, 0, b -> b[447] = 2)),
        link("B-6", m -> edit(m, 32, b -> Bytes.put32(b, 0x1C, 33))),
        link("B-7", m -> edit(m, 32, b -> Bytes.put16(b, 0x18, 17))),
        link("B-8", m -> edit(m, rootOf(m), b -> b[0] = (byte) 0xE5)));
  }

  private static long rootOf(MemoryMedium m) {
    return 32 + Samples.volume(m, G).layout().rootStart();
  }

  private static Arguments link(String rule, Consumer<MemoryMedium> how) {
    return Arguments.of(rule, how);
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("links")
  void theFirstBrokenLinkIsNamedWithItsMend(String rule, Consumer<MemoryMedium> how) {
    MemoryMedium m = Samples.drive(G);
    assertThat(walk(m).holds()).isTrue();
    assertThat(walk(m).message()).isEmpty();
    how.accept(m);
    BootChain chain = walk(m);
    assertThat(chain.holds()).isFalse();
    BootChain.Link broken = chain.broken().orElseThrow();
    assertThat(broken.rule()).isEqualTo(rule);
    assertThat(broken.mend()).isNotBlank();
    assertThat(broken.evidence()).isNotBlank();
    assertThat(chain.links()).hasSize(8);
  }

  @Test
  void aStartBelowThePegOfTheBootPathIsOutOfReach() {
    MemoryMedium m = Samples.drive(G);
    for (long reach = 31; reach <= 33; reach++) {
      BootChain chain = new PcBoot().walk(m, G, reach);
      BootChain.Link b4 = chain.links().get(3);
      assertThat(b4.rule()).isEqualTo("B-4");
      assertThat(b4.verdict())
          .isEqualTo(reach > 32 ? BootChain.Verdict.HOLDS : BootChain.Verdict.BREAKS);
    }
  }

  @Test
  void linksAfterABreakThatHidesThemAreNotReached() {
    MemoryMedium m = Samples.drive(G);
    edit(m, 0, b -> b[446] = 0);
    assertThat(walk(m).links().subList(3, 8))
        .allMatch(l -> l.verdict() == BootChain.Verdict.UNSEEN);
    assertThat(walk(m).message()).contains(BootCode.Message.NO_ACTIVE.text());
  }

  @Test
  void otherBootCodeIsNotPredicted() {
    MemoryMedium m = Samples.drive(G);
    edit(m, 0, b -> b[3] ^= 1);
    edit(m, 0, b -> b[446] = 0);
    assertThat(walk(m).message()).isEqualTo(Optional.empty());
  }

  @Test
  void nonsenseIsWalkedToItsEnd() {
    for (int i = 0; i < 300; i++) {
      byte[] b = Samples.content(i, 64 * 512);
      b[510] = 0x55;
      b[511] = (byte) 0xAA;
      b[446] = (byte) 0x80;
      b[462] = 0;
      b[478] = 0;
      b[494] = 0;
      MemoryMedium m = MemoryMedium.of(b);
      assertThat(walk(m).links()).hasSize(8);
    }
  }

  // ---- code -------------------------------------------------------------------------------------

  @ParameterizedTest
  @ValueSource(strings = {"IO.SYS", "LOOMIO.SYS", "A", "ABCDEFGH.XYZ"})
  void ourBootSectorKnowsItsSystemFile(String name) {
    byte[] sector = new byte[512];
    byte[] code = BootCode.volume(name);
    assertThat(code.length).isLessThanOrEqualTo(448);
    System.arraycopy(code, 0, sector, 0x3E, code.length);
    assertThat(BootCode.systemFileOf(sector)).isEqualTo(name);
    sector[0x50] ^= 1;
    assertThat(BootCode.systemFileOf(sector)).isEmpty();
  }

  @Test
  void ourCodeThatFindsItsFileByNameIsKnownAgain() {
    for (Contract c : Contract.values()) {
      for (String kind : List.of("FAT12", "FAT16", "FAT32")) {
        byte[] code = BootCode.volume(c, kind, "KERN-1.SYS");
        byte[] sector = new byte[512];
        int at = kind.equals("FAT32") ? 0x5A : 0x3E;
        System.arraycopy(code, 0, sector, at, code.length);
        String known = c == Contract.TWO_FILES ? "" : "KERN-1.SYS";
        assertThat(BootCode.namedFileOf(sector, kind)).as(c + kind).isEqualTo(known);
        sector[at + 30] ^= 1;
        assertThat(BootCode.namedFileOf(sector, kind)).isEmpty();
      }
    }
  }

  @Test
  void ourTableCodeFitsAndIsKnown() {
    byte[] code = BootCode.table();
    assertThat(code.length).isLessThanOrEqualTo(440);
    byte[] sector = java.util.Arrays.copyOf(code, 512);
    assertThat(BootCode.isTable(sector)).isTrue();
    assertThat(BootCode.isTable(new byte[512])).isFalse();
    for (BootCode.Message m : BootCode.Message.values())
      assertThat(m.text().length()).isLessThan(41);
  }

  @Test
  void theAssemblerPutsLabelsInTheirPlace() {
    byte[] code =
        new Assembler(0x7C00)
            .label("start")
            .near("EB", "end")
            .address("BE", "text")
            .far("E8", "start")
            .label("end")
            .op16("B8", 0x1234)
            .label("text")
            .text("A")
            .assemble();
    assertThat(code)
        .containsExactly(0xEB, 6, 0xBE, 0x0B, 0x7C, 0xE8, 0xF8, 0xFF, 0xB8, 0x34, 0x12, 0x41, 0x00);
    assertThatThrownBy(() -> new Assembler(0).near("EB", "nowhere").assemble())
        .hasMessageContaining("nowhere");
    assertThatThrownBy(() -> new Assembler(0).label("a").label("a")).hasMessageContaining("twice");
    Assembler far = new Assembler(0).near("EB", "away");
    for (int i = 0; i < 130; i++) far.op("90");
    assertThatThrownBy(() -> far.label("away").assemble()).hasMessageContaining("too far");
  }

  @Test
  void messagesAreDifferentSoThatEachNamesItsLink() {
    List<String> texts = Stream.of(BootCode.Message.values()).map(BootCode.Message::text).toList();
    assertThat(texts).doesNotHaveDuplicates();
  }
}
