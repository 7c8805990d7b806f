package lanternshed.server.images;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Letters;
import lanternshed.core.survey.Survey;

/**
 * A survey as the screens show it; the sizes of single files stay with the planner.
 *
 * @param layout how it lies, as somebody said; "" where nobody had to
 */
public record SurveyView(
    long sectors,
    String size,
    String scheme,
    String layout,
    List<VolumeView> volumes,
    List<Survey.GeometrySource> geometry,
    List<Finding> findings) {

  /** One volume, with the letter that the system gives it (P-7). */
  public record VolumeView(
      int number,
      String letter,
      long start,
      long length,
      String size,
      String kind,
      String label,
      boolean readable,
      boolean active,
      long files,
      long folders,
      long notWhole,
      String bytes,
      String clusterSize,
      String unit,
      String free,
      List<String> systemFiles,
      List<String> guesses,
      Sum freeBecause) {}

  /** What the holes of the rescue hit is a finding like any other: the file is not whole. */
  private static List<Finding> findings(Survey s, List<Holes.Hit> hits) {
    List<Finding> out = new ArrayList<>(s.allFindings());
    for (Holes.Hit h : hits) {
      if (h.kind().equals("free space")) continue;
      String what = h.path().isEmpty() ? place(h.kind()) : h.path();
      out.add(
          Finding.wrong(
                  "R-3",
                  "sector " + Say.count(h.first()),
                  what + " is not whole: " + Say.sectors(h.sectors()) + " of it did not come back.",
                  "Compare it with another copy, or rescue the drive again.")
              .because(
                  Sum.of("R-3", "What is missing of it")
                      .sectors("", "lost", h.sectors())
                      .bytes("×", "sector", 512)
                      .bytes("=", "lost", h.sectors() * 512)
                      .bytes("", "its length", h.bytes())
                      .because("A marker stands in the image where a sector did not come back.")
                      .done()));
    }
    out.sort(Comparator.comparing(Finding::weight));
    return out;
  }

  static SurveyView of(Survey s, List<Holes.Hit> hits, String layout) {
    return new SurveyView(
        s.sectors(),
        Say.mib(s.sectors() * 512),
        s.table().map(t -> t.scheme()).orElse("no table"),
        layout,
        s.volumes().stream()
            .map(v -> volume(v, Letters.of(s).getOrDefault(v.number(), "")))
            .toList(),
        s.geometry(),
        findings(s, hits));
  }

  private static String place(String kind) {
    return kind.equals("outside") ? "What lies outside the volumes" : "The " + kind;
  }

  private static VolumeView volume(Survey.Found v, String letter) {
    return new VolumeView(
        v.number(),
        letter,
        v.start(),
        v.length(),
        Say.mib(v.length() * 512),
        v.kind(),
        v.label(),
        v.readable(),
        v.active(),
        v.files(),
        v.folders(),
        v.notWhole(),
        Say.size(v.bytes()),
        Say.size(v.use().clusterBytes()),
        Catalogue.unit(v.kind()),
        Say.size(v.use().freeBytes()),
        v.systemFiles(),
        v.guesses(),
        Sum.of("F-3", "Free space of volume " + v.number())
            .line("", "free " + Catalogue.unit(v.kind()) + "s", v.use().free())
            .bytes("×", Catalogue.unit(v.kind()), v.use().clusterBytes())
            .bytes("=", "free", v.use().freeBytes())
            .because("Its own map was counted, entry by entry.")
            .done());
  }
}
