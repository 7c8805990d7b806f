package lanternshed.server.sheets;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import lanternshed.server.roms.RomService;
import org.springframework.stereotype.Component;

/** What is pasted over a chip's window, and what is laid beside the board when it is fitted. */
@Component
class RomSheet {
  private final RomService roms;

  RomSheet(RomService roms) {
    this.roms = roms;
  }

  byte[] label(long id) {
    RomService.RomFact f = roms.fact(id);
    List<String> lines = new ArrayList<>();
    lines.add(LabelSheet.clipped(f.name()));
    lines.add(f.size() + (f.needs().isEmpty() ? "" : ", needs an " + f.needs()));
    if (!f.window().isEmpty()) lines.add("at " + f.window());
    if (!f.note().isEmpty()) lines.add(LabelSheet.clipped(f.note()));
    lines.add("SHA-256 " + f.sha256().substring(0, LabelSheet.DIGITS) + "…");
    lines.add("kept " + LocalDate.ofInstant(f.at(), ZoneOffset.UTC) + ", cover the window");
    String code = "rom " + id + "; sha256 " + f.sha256();
    return SheetPdf.label(LabelSheet.WIDE, LabelSheet.HIGH, "Label of " + f.name())
        .code(code, LabelSheet.CODE, lines)
        .done();
  }

  byte[] fitting(long id, Paper paper) {
    RomService.RomFact f = roms.fact(id);
    SheetPdf s = new SheetPdf(paper, f.name(), "ROM " + id + ", " + f.name());
    s.answer(
        f.window().isEmpty()
            ? "No window is chosen yet."
            : "It answers from " + f.window() + " on.");
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put("length", f.size());
    facts.put("SHA-256", f.sha256());
    if (!f.needs().isEmpty()) facts.put("processor", f.needs() + " or later");
    if (!f.carrier().isEmpty()) facts.put("its chip sits in", f.carrier());
    if (!f.note().isEmpty()) facts.put("label", f.note());
    if (!f.reading().isEmpty()) facts.put("last read back", f.reading());
    s.facts(facts);
    if (!f.jumpers().isEmpty())
      s.head("Jumpers as they were tested, filled ones closed").switches(f.jumpers());
    s.head("By hand");
    return s.points(
            List.of(
                point("Power off and unplugged; touch bare metal of the case first."),
                point("The notch of the chip shows the way that the notch of its socket shows."),
                point("Setup says no drive for what this ROM takes over."),
                point("Cover the chip's window: daylight erases it."),
                point("The original is labelled and kept unerased.")))
        .done();
  }

  private static SheetPdf.Point point(String text) {
    return new SheetPdf.Point(text, List.of(), "");
  }
}
