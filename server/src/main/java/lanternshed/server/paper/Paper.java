package lanternshed.server.paper;

import com.lowagie.text.PageSize;
import com.lowagie.text.Rectangle;

/** The two sizes of paper that lie in a printer. */
public enum Paper {
  A4(PageSize.A4),
  LETTER(PageSize.LETTER);

  private final Rectangle size;

  Paper(Rectangle size) {
    this.size = size;
  }

  Rectangle size() {
    return size;
  }
}
