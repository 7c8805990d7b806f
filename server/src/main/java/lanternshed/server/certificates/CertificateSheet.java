package lanternshed.server.certificates;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Say;
import lanternshed.core.work.Span;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;

/** A certificate on paper. It says what its JSON says, and the digest by which both are held. */
final class CertificateSheet {
  /** Spans that are written out; of more only the number is. */
  private static final int MOST = 40;

  private CertificateSheet() {}

  static byte[] of(long id, Certificate c, String sha256, Paper paper) {
    SheetPdf s = new SheetPdf(paper, "Wiping certificate " + id, "SHA-256 of its JSON " + sha256);
    s.answer(
        c.wiped() ? "Wiped: nothing readable is left." : "Not wholly wiped: see what is left.");
    s.text(c.sentence());
    s.head("The medium");
    Map<String, String> medium = new LinkedHashMap<>();
    medium.put("name", c.medium().name());
    medium.put("kind", c.medium().kind() + (c.medium().standIn() ? ", a stand-in" : ""));
    medium.put("serial", c.medium().serial().isEmpty() ? "none is known" : c.medium().serial());
    medium.put("size", Say.sectors(c.medium().sectors()) + ", " + c.medium().size());
    s.facts(medium);
    s.head("What was done");
    Map<String, String> done = new LinkedHashMap<>();
    done.put("overwritten with", c.method());
    done.put("read back", c.readBack());
    done.put("begun", SheetPdf.at(c.begun()));
    done.put("ended", SheetPdf.at(c.ended()));
    done.put("by", c.by().isEmpty() ? " " : c.by());
    if (!c.mediumSha256().isEmpty()) done.put("SHA-256 of the medium now", c.mediumSha256());
    s.facts(done);
    left(s, "Could not be overwritten", c.unwritten());
    left(s, "Did not read back", c.unread());
    left(s, "Read back as something else", c.otherwise());
    s.head("What no writing reaches").text(c.outOfReach());
    if (!c.kept().isEmpty()) {
      s.head("What is kept of it");
      s.table(
          List.of("job", "image", "SHA-256"),
          new float[] {3, 3, 5},
          c.kept().stream()
              .map(k -> List.of(k.job(), k.image() + lost(k.lostSectors()), k.sha256()))
              .toList());
    }
    s.facts(Map.of("signed", " \n "));
    return s.done();
  }

  private static String lost(long sectors) {
    return sectors == 0 ? "" : "; " + Say.sectors(sectors) + " of it never came";
  }

  private static void left(SheetPdf s, String title, List<Span> spans) {
    if (spans.isEmpty()) return;
    s.head(title);
    s.table(
        List.of("from sector", "sectors"),
        new float[] {1, 1},
        spans.stream()
            .limit(MOST)
            .map(x -> List.of(Say.count(x.start()), Say.count(x.length())))
            .toList());
    if (spans.size() > MOST) {
      s.text("and " + Say.count(spans.size() - MOST) + " more places; all stand in the JSON.");
    }
  }
}
