package lanternshed.core.measure;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256, the digest that vouches for bytes. */
public final class Sha256 {
  private Sha256() {}

  /** A digest of its own; every Java has this algorithm. */
  public static MessageDigest fresh() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Of some bytes, in hexadecimal. */
  public static String of(byte[] b) {
    return HexFormat.of().formatHex(fresh().digest(b));
  }
}
