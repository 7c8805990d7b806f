package lanternshed.server.pictures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.CRC32;
import javax.imageio.ImageIO;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PictureFileTest {
  @TempDir Path folder;

  /** A picture, red on its left half, with an Exif block as a phone writes it. */
  private Path phone(int orientation) throws IOException {
    BufferedImage b = new BufferedImage(400, 200, BufferedImage.TYPE_INT_RGB);
    for (int x = 0; x < 400; x++)
      for (int y = 0; y < 200; y++) b.setRGB(x, y, x < 200 ? 0xFF0000 : 0x0000FF);
    ByteArrayOutputStream jpeg = new ByteArrayOutputStream();
    ImageIO.write(b, "jpg", jpeg);
    ByteArrayOutputStream exif = new ByteArrayOutputStream();
    DataOutputStream d = new DataOutputStream(exif);
    d.write("Exif\0\0MM\0*".getBytes(StandardCharsets.US_ASCII));
    d.writeInt(8);
    d.writeShort(2);
    d.writeShort(0x0112);
    d.writeShort(3);
    d.writeInt(1);
    d.writeShort(orientation);
    d.writeShort(0);
    d.writeShort(0x010F);
    d.writeShort(2);
    d.writeInt(4);
    d.write("GPS\0".getBytes(StandardCharsets.US_ASCII));
    d.writeInt(0);
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    DataOutputStream out = new DataOutputStream(all);
    out.writeShort(0xFFD8);
    out.writeShort(0xFFE1);
    out.writeShort(exif.size() + 2);
    out.write(exif.toByteArray());
    out.write(jpeg.toByteArray(), 2, jpeg.size() - 2);
    return Files.write(folder.resolve("phone.jpg"), all.toByteArray());
  }

  private PictureFile.Kept keep(Path from) throws IOException {
    return PictureFile.keep(from, folder.resolve("picture"), folder.resolve("small"));
  }

  @ParameterizedTest
  @CsvSource({
    "1, 400, 200, left",
    "3, 400, 200, right",
    "6, 200, 400, top",
    "8, 200, 400, bottom",
    "2, 400, 200, right"
  })
  void picturesStandUprightAndTellNothingOfThePhone(int orientation, int w, int h, String red)
      throws IOException {
    PictureFile.Kept kept = keep(phone(orientation));
    assertThat(kept).isEqualTo(new PictureFile.Kept("image/jpeg", w, h));
    byte[] b = Files.readAllBytes(folder.resolve("picture"));
    assertThat(new String(b, StandardCharsets.ISO_8859_1))
        .doesNotContain("Exif")
        .doesNotContain("GPS");
    BufferedImage i = ImageIO.read(folder.resolve("picture").toFile());
    int x = red.equals("left") ? 20 : red.equals("right") ? w - 20 : w / 2;
    int y = red.equals("top") ? 20 : red.equals("bottom") ? h - 20 : h / 2;
    assertThat(new Color(i.getRGB(x, y)).getRed()).isGreaterThan(200);
    assertThat(ImageIO.read(folder.resolve("small").toFile()).getWidth()).isLessThanOrEqualTo(320);
  }

  @Test
  void aRenamedTextFileIsRefused() throws IOException {
    Path p = Files.writeString(folder.resolve("notes.jpg"), "these are notes");
    assertThatThrownBy(() -> keep(p))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("no JPEG");
  }

  @Test
  void aPictureOf30000Times30000IsRefusedBeforeItIsUnpacked() throws IOException {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    all.write(new byte[] {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10});
    ByteArrayOutputStream head = new ByteArrayOutputStream();
    DataOutputStream d = new DataOutputStream(head);
    d.writeBytes("IHDR");
    d.writeInt(30_000);
    d.writeInt(30_000);
    d.write(new byte[] {8, 2, 0, 0, 0});
    CRC32 crc = new CRC32();
    crc.update(head.toByteArray());
    DataOutputStream out = new DataOutputStream(all);
    out.writeInt(13);
    out.write(head.toByteArray());
    out.writeInt((int) crc.getValue());
    Path p = Files.write(folder.resolve("huge.png"), all.toByteArray());
    assertThatThrownBy(() -> keep(p)).hasMessageContaining("30\u202F000 × 30\u202F000 pixels");
  }

  @Test
  void aCutOffPictureIsRefused() throws IOException {
    byte[] b = Files.readAllBytes(phone(1));
    Path p = Files.write(folder.resolve("cut.jpg"), java.util.Arrays.copyOf(b, 300));
    assertThatThrownBy(() -> keep(p)).isInstanceOf(ShedException.class);
  }
}
