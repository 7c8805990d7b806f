package lanternshed.core.measure;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.Provider;
import java.util.Optional;
import org.conscrypt.Conscrypt;

/** SHA-256, the digest that vouches for bytes; what a rescue waits for longest. */
public final class Sha256 {
  private static final Optional<Provider> NATIVE = nativeProvider();

  private Sha256() {}

  /**
   * A digest of its own: compiled code where the library for it runs here, else Java's, which is
   * the slower one on processors without instructions for SHA.
   */
  public static MessageDigest fresh() {
    try {
      return NATIVE.isPresent()
          ? MessageDigest.getInstance("SHA-256", NATIVE.get())
          : MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  private static Optional<Provider> nativeProvider() {
    try {
      return Conscrypt.isAvailable() ? Optional.of(Conscrypt.newProvider()) : Optional.empty();
    } catch (RuntimeException | LinkageError e) {
      // A processor or C library that it was not built for.
      return Optional.empty();
    }
  }
}
