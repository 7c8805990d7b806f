package lanternshed.server.images;

import java.util.List;
import lanternshed.core.boot.BootChain;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.survey.Survey;

/** A survey as the screens show it; the sizes of single files stay with the planner. */
public record SurveyView(
    long sectors,
    String size,
    String scheme,
    List<VolumeView> volumes,
    List<Survey.GeometrySource> geometry,
    List<Finding> findings,
    List<BootChain.Link> boot) {

  /** One volume. */
  public record VolumeView(
      int number,
      long start,
      long length,
      String size,
      String kind,
      String label,
      boolean readable,
      boolean active,
      long files,
      long folders,
      String bytes,
      String clusterSize,
      String free,
      List<String> systemFiles,
      Sum freeBecause) {}

  static SurveyView of(Survey s, List<BootChain.Link> boot) {
    return new SurveyView(
        s.sectors(),
        Say.mib(s.sectors() * 512),
        s.table().map(t -> t.scheme()).orElse("no table"),
        s.volumes().stream().map(SurveyView::volume).toList(),
        s.geometry(),
        s.allFindings(),
        boot);
  }

  private static VolumeView volume(Survey.Found v) {
    return new VolumeView(
        v.number(),
        v.start(),
        v.length(),
        Say.mib(v.length() * 512),
        v.kind(),
        v.label(),
        v.readable(),
        v.active(),
        v.files(),
        v.folders(),
        Say.size(v.bytes()),
        Say.size(v.use().clusterBytes()),
        Say.size(v.use().freeBytes()),
        v.systemFiles(),
        Sum.of("F-3", "Free space of volume " + v.number())
            .line("", "free clusters", v.use().free())
            .bytes("×", "cluster", v.use().clusterBytes())
            .bytes("=", "free", v.use().freeBytes())
            .because("The first FAT was counted entry by entry.")
            .done());
  }
}
