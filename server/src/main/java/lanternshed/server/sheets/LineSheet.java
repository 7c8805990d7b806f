package lanternshed.server.sheets;

import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.transfer.LineSteps;
import lanternshed.core.transfer.SerialLine;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import org.springframework.stereotype.Component;

/** What is typed at both ends of a serial line, to be laid beside the keyboards. */
@Component
class LineSheet {
  byte[] of(SerialLine line, String end, boolean toMachine, Paper paper) {
    String title = toMachine ? "Files to the machine, by line" : "Files from the machine, by line";
    return new SheetPdf(paper, title, title)
        .answer(line.protocol().words() + " at " + Say.count(line.rate()) + " bits a second.")
        .points(LineSteps.of(line, end, toMachine).stream().map(LineSheet::point).toList())
        .done();
  }

  private static SheetPdf.Point point(LineSteps.LineStep s) {
    String at = s.there() ? "At the machine: " : "At the desktop: ";
    return new SheetPdf.Point(
        at + s.does(), s.types().isEmpty() ? List.of() : List.of("type: " + s.types()), "");
  }
}
