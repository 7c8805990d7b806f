package lanternshed.core.names;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Random;
import lanternshed.core.measure.ShedException;
import lanternshed.core.names.TextChange.Changed;
import lanternshed.core.names.TextChange.Ends;
import org.junit.jupiter.api.Test;

/** T-4: texts for another machine, and whether they come back. */
class TextChangeTest {
  private static byte[] utf(String s) {
    return s.getBytes(StandardCharsets.UTF_8);
  }

  private static String hex(byte[] b) {
    return java.util.HexFormat.ofDelimiter(" ").withUpperCase().formatHex(b);
  }

  @Test
  void aTextGetsTheLineEndsLettersAndEndOfItsMachine() {
    TextChange dos = new TextChange(Ends.CRLF, "UTF-8", "850", 8, true);
    Changed c = dos.of(utf("Grün\n\tb\n"));
    assertThat(hex(c.bytes())).isEqualTo("47 72 81 6E 0D 0A 20 20 20 20 20 20 20 20 62 0D 0A 1A");
    assertThat(c.says()).isEqualTo("LF → CR LF, tabs → spaces, 1A at its end, UTF-8 → 850");
    assertThat(c.lost()).isEqualTo("where its tabs were");
    Changed own = new TextChange(Ends.OWN_9B, "", "", 0, false).of(utf("a\r\nb\r\n"));
    assertThat(hex(own.bytes())).isEqualTo("61 9B 62 9B");
    assertThat(new TextChange(Ends.LF, "", "", 0, false).of(own.bytes()).bytes())
        .isEqualTo(utf("a\nb\n"));
  }

  @Test
  void whatIsLostIsSaid() {
    TextChange dos = new TextChange(Ends.CRLF, "UTF-8", "437", 0, false);
    Changed c = dos.of(utf("中 and → there\r\nx\n"));
    assertThat(c.lost()).isEqualTo("its line ends were mixed, 2 letters that 437 does not have");
    // Bytes that are no UTF-8 are somebody's code page: they are left.
    byte[] other = "Gr\u0081n und wei\u00E1 und so weiter\n".getBytes(StandardCharsets.ISO_8859_1);
    assertThat(dos.of(other).bytes()).isEqualTo(other);
    assertThat(dos.of(other).says()).isEqualTo("left as it is: not UTF-8");
  }

  @Test
  void whatIsNoTextStaysAsItIs() {
    TextChange all = new TextChange(Ends.CRLF, "UTF-8", "437", 8, true);
    Random r = new Random(4);
    for (int i = 0; i < 300; i++) {
      byte[] b = new byte[1 + r.nextInt(4000)];
      r.nextBytes(b);
      if (b.length < 64) continue;
      assertThat(TextChange.isText(b)).isFalse();
      assertThat(all.of(b).bytes()).isEqualTo(b);
    }
    assertThat(TextChange.isText(new byte[0])).isFalse();
    assertThat(TextChange.isText(new byte[] {0, 0})).isFalse();
    assertThat(TextChange.NONE.changesNothing()).isTrue();
    assertThatThrownBy(() -> new TextChange(Ends.LF, "1047", "", 0, false))
        .isInstanceOf(ShedException.class);
    assertThatThrownBy(() -> new TextChange(Ends.LF, "", "", 17, false))
        .isInstanceOf(ShedException.class);
  }

  @Test
  void whatIsSaidToComeBackDoes() {
    Random r = new Random(9);
    List<String> pages = List.of("UTF-8", "1252", "Latin-1", "437", "850");
    for (int i = 0; i < 2000; i++) {
      String from = pages.get(r.nextInt(pages.size()));
      String to = pages.get(r.nextInt(pages.size()));
      StringBuilder text = new StringBuilder();
      for (int n = r.nextInt(60); n >= 0; n--) {
        text.append("abc xyz ä ö é ñ ¿ →\n".charAt(r.nextInt(20)));
      }
      String nl = r.nextBoolean() ? "\n" : "\r\n";
      byte[] b = text.toString().replace("\n", nl).getBytes(charset(from));
      Ends there = r.nextBoolean() ? Ends.CRLF : Ends.CR;
      Changed c = new TextChange(there, from, to, 0, false).of(b);
      if (!c.lost().isEmpty() || !TextChange.isText(b)) continue;
      if (!TextChange.isText(c.bytes())) continue;
      Ends back = nl.equals("\n") ? Ends.LF : Ends.CRLF;
      assertThat(new TextChange(back, to, from, 0, false).of(c.bytes()).bytes()).isEqualTo(b);
    }
  }

  @Test
  void theLettersOfFamiliesAreDataAndEachComesBack() {
    for (Map.Entry<String, Charset> e : Letters.all().entrySet()) {
      int known = 0;
      for (int b = 0x20; b < 0x100; b++) {
        String letter = new String(new byte[] {(byte) b}, e.getValue());
        if (letter.equals("\uFFFD")) continue;
        known++;
        assertThat(letter.getBytes(e.getValue())).as(e.getKey()).isEqualTo(new byte[] {(byte) b});
      }
      assertThat(known).as(e.getKey()).isGreaterThan(70);
      assertThat("\uD83D\uDE00中".getBytes(e.getValue())).hasSize(2);
    }
    Changed c = new TextChange(Ends.CR, "UTF-8", "link-and-map", 0, false).of(utf("Hello £\n"));
    assertThat(c.bytes()).isEqualTo(hex("C8454C4C4F205C0D"));
    Changed back = new TextChange(Ends.LF, "link-and-map", "UTF-8", 0, false).of(c.bytes());
    assertThat(back.bytes()).isEqualTo(utf("Hello £\n"));
    Changed lines = new TextChange(Ends.LF, "linked-sector", "UTF-8", 0, false).of(hex("41429B"));
    assertThat(lines.bytes()).isEqualTo(utf("AB\n"));
    assertThat(new TextChange(Ends.KEEP, "UTF-8", "AHDI", 0, false).of(utf("Straße")).bytes())
        .isEqualTo(hex("537472619E65"));
    // A letter that stands twice in a set is none: it could not be had again.
    Changed twice = new TextChange(Ends.KEEP, "link-and-map", "UTF-8", 0, false).of(hex("616263"));
    assertThat(twice.says()).contains("left as it is");
  }

  private static byte[] hex(String s) {
    return java.util.HexFormat.of().parseHex(s);
  }

  private static Charset charset(String page) {
    return Charset.forName(
        switch (page) {
          case "1252" -> "windows-1252";
          case "Latin-1" -> "ISO-8859-1";
          case "437" -> "IBM437";
          case "850" -> "IBM850";
          default -> "UTF-8";
        });
  }
}
