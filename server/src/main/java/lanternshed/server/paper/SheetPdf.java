package lanternshed.server.paper;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import com.google.zxing.qrcode.decoder.ErrorCorrectionLevel;
import com.lowagie.text.Document;
import com.lowagie.text.DocumentException;
import com.lowagie.text.Element;
import com.lowagie.text.Image;
import com.lowagie.text.Paragraph;
import com.lowagie.text.Phrase;
import com.lowagie.text.Rectangle;
import com.lowagie.text.pdf.ColumnText;
import com.lowagie.text.pdf.PdfPCell;
import com.lowagie.text.pdf.PdfPTable;
import com.lowagie.text.pdf.PdfPageEventHelper;
import com.lowagie.text.pdf.PdfWriter;
import java.awt.Color;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;

/** One sheet as it grows from top to bottom; black on white, so that any printer will do. */
public final class SheetPdf {
  private static final float MARGIN = 48;
  private static final float LABEL = 150;
  private static final float PICTURE = 220;
  private static final float BOX = 12;
  private static final float SWITCH = 26;
  private static final float READING = 150;
  private static final Color RULE = new Color(0xD8, 0xCD, 0xB9);
  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private final Document document;

  /**
   * @param foot stands at the foot of each page, with its number
   */
  public SheetPdf(Paper paper, String title, String foot) {
    this(paper.size(), MARGIN, title, foot);
    document.add(paragraph(Type.TITLE, title, 0, 8));
  }

  private SheetPdf(Rectangle size, float margin, String title, String foot) {
    document = new Document(size, margin, margin, margin, margin);
    PdfWriter writer = PdfWriter.getInstance(document, bytes);
    if (!foot.isEmpty()) writer.setPageEvent(new Foot(foot));
    document.addTitle(title);
    document.addCreator("Lantern Shed");
    document.open();
  }

  /** A label of its own size, without a foot. */
  public static SheetPdf label(float millimetresWide, float millimetresHigh, String title) {
    float mm = 72 / 25.4f;
    Rectangle size = new Rectangle(millimetresWide * mm, millimetresHigh * mm);
    return new SheetPdf(size, 3 * mm, title, "");
  }

  private static final class Foot extends PdfPageEventHelper {
    private final String text;

    Foot(String text) {
      this.text = text;
    }

    @Override
    public void onEndPage(PdfWriter writer, Document document) {
      Phrase p = Type.SMALL.of(text + " · page " + writer.getPageNumber());
      ColumnText.showTextAligned(
          writer.getDirectContent(), Element.ALIGN_LEFT, p, MARGIN, MARGIN / 2, 0);
    }
  }

  private static Paragraph paragraph(Type type, String text, float before, float after) {
    Paragraph p = new Paragraph(type.leading());
    p.add(type.of(text));
    p.setSpacingBefore(before);
    p.setSpacingAfter(after);
    return p;
  }

  /** A moment as it stands on a sheet: to the second, and of no place. */
  public static String at(Instant i) {
    return i.truncatedTo(ChronoUnit.SECONDS).toString().replace('T', ' ').replace("Z", " UTC");
  }

  public SheetPdf head(String text) {
    document.add(paragraph(Type.HEAD, text, 12, 3));
    return this;
  }

  public SheetPdf text(String text) {
    document.add(paragraph(Type.TEXT, text, 0, 4));
    return this;
  }

  /** The one sentence that the sheet is about. */
  public SheetPdf answer(String text) {
    document.add(paragraph(Type.HEAD, text, 2, 6));
    return this;
  }

  /** Names on the left, what they are on the right, in figures that keep 0 and O apart. */
  public SheetPdf facts(Map<String, String> facts) {
    PdfPTable t = new PdfPTable(2);
    t.setWidthPercentage(100);
    float all = document.right() - document.left();
    t.setTotalWidth(new float[] {LABEL, all - LABEL});
    t.setLockedWidth(true);
    facts.forEach(
        (name, is) -> {
          t.addCell(cell(Type.SMALL.of(name)));
          t.addCell(cell(Type.FIGURE.of(is)));
        });
    return add(t);
  }

  /**
   * @param shares of the width, one a column
   */
  public SheetPdf table(List<String> heads, float[] shares, List<List<String>> rows) {
    PdfPTable t = new PdfPTable(shares);
    t.setWidthPercentage(100);
    t.setHeaderRows(1);
    heads.forEach(h -> t.addCell(cell(Type.SMALL.of(h))));
    rows.forEach(r -> r.forEach(c -> t.addCell(cell(Type.SMALL.of(c)))));
    return add(t);
  }

  /**
   * A point to be ticked with a pen.
   *
   * @param says under it in small type; may be empty
   * @param reading what is written down beside it; "" for nothing
   */
  public record Point(String text, List<String> says, String reading) {}

  /** Points with a box before each and a line for what is read, none torn over two pages. */
  public SheetPdf points(List<Point> points) {
    float all = document.right() - document.left();
    PdfPTable t = new PdfPTable(3);
    t.setTotalWidth(new float[] {BOX + 8, all - BOX - 8 - READING, READING});
    t.setLockedWidth(true);
    t.setSplitRows(false);
    for (Point p : points) {
      PdfPTable box = new PdfPTable(1);
      box.setTotalWidth(BOX);
      box.setLockedWidth(true);
      PdfPCell square = new PdfPCell();
      square.setFixedHeight(BOX);
      box.addCell(square);
      // Added to the cell and not as its content, which would be as high as the row.
      box.setHorizontalAlignment(Element.ALIGN_LEFT);
      PdfPCell first = new PdfPCell();
      first.addElement(box);
      first.setBorder(Rectangle.BOTTOM);
      first.setBorderColor(RULE);
      first.setPadding(0);
      first.setPaddingTop(6);
      t.addCell(first);
      PdfPCell words = cell(Type.TEXT.of(p.text()));
      words.setPhrase(null);
      words.addElement(paragraph(Type.TEXT, p.text(), 0, 0));
      p.says().forEach(x -> words.addElement(paragraph(Type.SMALL, x, 0, 0)));
      words.setPaddingBottom(6);
      t.addCell(words);
      t.addCell(cell(Type.SMALL.of(p.reading().isEmpty() ? " " : p.reading() + ": ________")));
    }
    return add(t);
  }

  /** A code that a telephone reads, with text beside it; the first line is the largest. */
  public SheetPdf code(String content, float millimetres, List<String> beside) {
    float side = millimetres * 72 / 25.4f;
    PdfPTable t = new PdfPTable(2);
    t.setTotalWidth(new float[] {side + 6, document.right() - document.left() - side - 6});
    t.setLockedWidth(true);
    PdfPCell code = new PdfPCell(qr(content, side), false);
    code.setBorder(Rectangle.NO_BORDER);
    t.addCell(code);
    PdfPCell words = new PdfPCell();
    words.setBorder(Rectangle.NO_BORDER);
    words.setPaddingTop(0);
    for (int i = 0; i < beside.size(); i++) {
      words.addElement(paragraph(i == 0 ? Type.BOLD : Type.SMALL, beside.get(i), 0, 0));
    }
    t.addCell(words);
    return add(t);
  }

  /**
   * A row of jumpers or switches as they stand, closed ones filled, with their names under them.
   */
  public SheetPdf switches(Map<String, Boolean> closed) {
    PdfPTable t = new PdfPTable(closed.size());
    t.setTotalWidth(SWITCH * closed.size());
    t.setLockedWidth(true);
    t.setHorizontalAlignment(Element.ALIGN_LEFT);
    closed.forEach(
        (name, isClosed) -> {
          PdfPCell c = new PdfPCell();
          c.setFixedHeight(SWITCH / 2);
          if (isClosed) c.setBackgroundColor(Color.BLACK);
          t.addCell(c);
        });
    closed.forEach((name, isClosed) -> t.addCell(cell(Type.SMALL.of(name))));
    return add(t);
  }

  /** Pictures with a line under each, two beside each other. */
  public SheetPdf pictures(Map<Path, String> all) {
    PdfPTable t = new PdfPTable(2);
    t.setWidthPercentage(100);
    all.forEach(
        (file, says) -> {
          PdfPCell c = new PdfPCell();
          c.setBorder(Rectangle.NO_BORDER);
          c.setPadding(4);
          try {
            Image i = Image.getInstance(Files.readAllBytes(file));
            i.scaleToFit(PICTURE, PICTURE);
            c.addElement(i);
          } catch (IOException e) {
            c.addElement(paragraph(Type.SMALL, "(this picture could not be read)", 0, 0));
          }
          c.addElement(paragraph(Type.SMALL, says, 0, 0));
          t.addCell(c);
        });
    t.completeRow();
    return add(t);
  }

  private SheetPdf add(PdfPTable t) {
    t.setSpacingBefore(2);
    t.setSpacingAfter(4);
    document.add(t);
    return this;
  }

  private static PdfPCell cell(Phrase p) {
    PdfPCell c = new PdfPCell(p);
    c.setBorder(Rectangle.BOTTOM);
    c.setBorderColor(RULE);
    c.setPadding(3);
    c.setPaddingLeft(0);
    return c;
  }

  private static Image qr(String content, float side) {
    try {
      BitMatrix m =
          new QRCodeWriter()
              .encode(
                  content,
                  BarcodeFormat.QR_CODE,
                  0,
                  0,
                  Map.of(
                      EncodeHintType.ERROR_CORRECTION,
                      ErrorCorrectionLevel.M,
                      EncodeHintType.MARGIN,
                      1));
      int w = m.getWidth();
      int row = (w + 7) / 8;
      byte[] bits = new byte[row * w];
      for (int y = 0; y < w; y++) {
        for (int x = 0; x < w; x++) {
          if (!m.get(x, y)) bits[y * row + x / 8] |= (byte) (0x80 >> x % 8);
        }
      }
      Image i = Image.getInstance(w, w, 1, 1, bits);
      i.scaleAbsolute(side, side);
      return i;
    } catch (WriterException | DocumentException e) {
      throw new IllegalStateException("a code of " + content.length() + " characters", e);
    }
  }

  /** The whole sheet. */
  public byte[] done() {
    document.close();
    try {
      bytes.close();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }
}
