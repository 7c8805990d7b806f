package lanternshed.server.paper;

import com.lowagie.text.DocumentException;
import com.lowagie.text.Font;
import com.lowagie.text.Phrase;
import com.lowagie.text.pdf.BaseFont;
import com.lowagie.text.pdf.FontSelector;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;

/** The type of the sheets: that of the screens; what it has no sign for is set in another. */
enum Type {
  TEXT("/fonts/text.ttf", "/liberation/LiberationSans-Regular.ttf", 10.5f),
  SMALL("/fonts/text.ttf", "/liberation/LiberationSans-Regular.ttf", 9f),
  BOLD("/fonts/text-bold.ttf", "/liberation/LiberationSans-Bold.ttf", 10.5f),
  HEAD("/fonts/text-bold.ttf", "/liberation/LiberationSans-Bold.ttf", 13f),
  TITLE("/fonts/text-bold.ttf", "/liberation/LiberationSans-Bold.ttf", 20f),
  FIGURE("/fonts/figures.ttf", "/liberation/LiberationMono-Regular.ttf", 9.5f);

  private final BaseFont own;
  private final BaseFont other;
  private final float size;

  Type(String own, String other, float size) {
    this.own = font(own);
    this.other = font(other);
    this.size = size;
  }

  private static BaseFont font(String resource) {
    try (InputStream in = Type.class.getResourceAsStream(resource)) {
      return BaseFont.createFont(
          resource, BaseFont.IDENTITY_H, BaseFont.EMBEDDED, true, in.readAllBytes(), null);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (DocumentException e) {
      throw new IllegalStateException(resource + " ships with the program", e);
    }
  }

  Phrase of(String text) {
    FontSelector s = new FontSelector();
    s.addFont(new Font(own, size));
    s.addFont(new Font(other, size));
    Phrase p = s.process(text.isEmpty() ? " " : text);
    p.setLeading(size * 1.35f);
    return p;
  }

  /** Points that a line of it takes. */
  float leading() {
    return size * 1.35f;
  }
}
