package lanternshed.server.pictures;

import com.drew.imaging.ImageMetadataReader;
import com.drew.imaging.ImageProcessingException;
import com.drew.metadata.MetadataException;
import com.drew.metadata.exif.ExifIFD0Directory;
import java.awt.Graphics2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Iterator;
import java.util.Locale;
import java.util.Set;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import net.coobird.thumbnailator.Thumbnails;

/**
 * Takes in a picture as a phone makes it: recognised by its content, its size looked at before
 * anything is unpacked, turned upright, and written anew, so that nothing of what the phone added
 * (place, time, device) is kept.
 */
final class PictureFile {
  static final long MOST_BYTES = 20_000_000;
  private static final Set<String> KINDS = Set.of("jpeg", "png", "webp");

  /** Directories of a JPEG that was written here, and what is known of its file. */
  private static final Set<String> BARE = Set.of("JPEG", "JFIF", "Huffman", "File Type", "File");

  private static final long MOST_PIXELS = 64_000_000;

  /** The longer side that is kept; more than a print of the bench card shows. */
  private static final int LONGEST = 2400;

  private static final int SMALL = 320;

  record Kept(String type, int width, int height) {}

  /** How a file becomes the picture that is kept, and its small form. */
  interface Way {
    Kept keep(Path from, Path picture, Path small) throws IOException;
  }

  private PictureFile() {}

  /**
   * Reads {@code from} and writes the upright picture and its small form; one picture at a time, so
   * that many at once need no more memory than one.
   *
   * @throws ShedException when it is no picture, or one that is too large to unpack
   */
  static synchronized Kept keep(Path from, Path picture, Path small) throws IOException {
    try {
      return unpacked(from, picture, small);
    } catch (OutOfMemoryError e) {
      throw new ShedException(
          "This picture takes more memory than there is. Make it smaller and bring it in again.",
          e);
    }
  }

  /**
   * The same of one that was kept so before: its bytes stay as they are, where it unpacks, is no
   * larger, and says nothing beside the picture.
   */
  static synchronized Kept again(Path from, Path picture, Path small) throws IOException {
    Kept kept = keep(from, picture, small);
    BufferedImage image = read(from);
    boolean same = image.getWidth() == kept.width() && image.getHeight() == kept.height();
    if (same && isBare(from)) Files.copy(from, picture, StandardCopyOption.REPLACE_EXISTING);
    return kept;
  }

  /** A JPEG without what cameras and programs add. */
  private static boolean isBare(Path from) throws IOException {
    try {
      for (var d : ImageMetadataReader.readMetadata(from.toFile()).getDirectories()) {
        if (!BARE.contains(d.getName())) return false;
      }
      return true;
    } catch (ImageProcessingException e) {
      return false;
    }
  }

  private static Kept unpacked(Path from, Path picture, Path small) throws IOException {
    BufferedImage image = upright(read(from), orientation(from));
    BufferedImage plain =
        new BufferedImage(image.getWidth(), image.getHeight(), BufferedImage.TYPE_INT_RGB);
    Graphics2D g = plain.createGraphics();
    g.setColor(java.awt.Color.WHITE);
    g.fillRect(0, 0, plain.getWidth(), plain.getHeight());
    g.drawImage(image, 0, 0, null);
    g.dispose();
    int w = plain.getWidth();
    int h = plain.getHeight();
    double scale = Math.min(1, LONGEST / (double) Math.max(w, h));
    write(plain, Math.max(1, (int) (w * scale)), Math.max(1, (int) (h * scale)), picture);
    double less = Math.min(1, SMALL / (double) Math.max(w, h));
    write(plain, Math.max(1, (int) (w * less)), Math.max(1, (int) (h * less)), small);
    return new Kept("image/jpeg", Math.max(1, (int) (w * scale)), Math.max(1, (int) (h * scale)));
  }

  private static void write(BufferedImage image, int w, int h, Path to) throws IOException {
    try (var out = Files.newOutputStream(to)) {
      Thumbnails.of(image)
          .forceSize(w, h)
          .outputFormat("jpg")
          .outputQuality(0.88)
          .toOutputStream(out);
    }
  }

  private static BufferedImage read(Path from) throws IOException {
    try (ImageInputStream in = ImageIO.createImageInputStream(from.toFile())) {
      Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
      if (!readers.hasNext()) throw noPicture();
      ImageReader reader = readers.next();
      try {
        if (!KINDS.contains(reader.getFormatName().toLowerCase(Locale.ROOT))) throw noPicture();
        reader.setInput(in, true, true);
        long w = reader.getWidth(0);
        long h = reader.getHeight(0);
        if (w * h > MOST_PIXELS) {
          throw new ShedException(
              "This picture has "
                  + Say.count(w)
                  + " × "
                  + Say.count(h)
                  + " pixels, more than the "
                  + Say.count(MOST_PIXELS)
                  + " that are unpacked here. Make it smaller and bring it in again.");
        }
        ImageReadParam p = reader.getDefaultReadParam();
        // No more is unpacked than is kept: a large photograph comes in at every second pixel.
        int every = (int) ((Math.max(w, h) + 2L * LONGEST - 1) / (2L * LONGEST));
        p.setSourceSubsampling(every, every, 0, 0);
        return reader.read(0, p);
      } finally {
        reader.dispose();
      }
    } catch (IOException | IndexOutOfBoundsException | IllegalArgumentException e) {
      throw new ShedException(
          "This picture does not unpack: it is cut off or damaged. Take it from the phone again.",
          e);
    }
  }

  private static ShedException noPicture() {
    return new ShedException(
        "This is no JPEG, PNG or WebP picture, whatever its name says; nothing was kept.");
  }

  /** The Exif orientation, 1 to 8; 1 where none is given. */
  private static int orientation(Path from) {
    try {
      var d =
          ImageMetadataReader.readMetadata(from.toFile())
              .getFirstDirectoryOfType(ExifIFD0Directory.class);
      if (d == null || !d.containsTag(ExifIFD0Directory.TAG_ORIENTATION)) return 1;
      return d.getInt(ExifIFD0Directory.TAG_ORIENTATION);
    } catch (ImageProcessingException | MetadataException | IOException e) {
      return 1;
    }
  }

  /** Turns by the Exif orientation: 3 half, 6 right, 8 left; the mirrored ones first mirror. */
  private static BufferedImage upright(BufferedImage image, int orientation) throws IOException {
    boolean mirrored = orientation == 2 || orientation == 4 || orientation == 5 || orientation == 7;
    BufferedImage source = mirrored ? mirror(image) : image;
    double turn =
        switch (orientation) {
          case 3, 4 -> 180;
          case 6, 7 -> 90;
          case 5, 8 -> 270;
          default -> 0;
        };
    return turn == 0 ? source : Thumbnails.of(source).scale(1).rotate(turn).asBufferedImage();
  }

  private static BufferedImage mirror(BufferedImage image) {
    BufferedImage out =
        new BufferedImage(image.getWidth(), image.getHeight(), BufferedImage.TYPE_INT_RGB);
    Graphics2D g = out.createGraphics();
    g.drawImage(image, image.getWidth(), 0, -image.getWidth(), image.getHeight(), null);
    g.dispose();
    return out;
  }
}
