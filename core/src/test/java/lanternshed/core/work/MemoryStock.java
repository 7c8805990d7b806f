package lanternshed.core.work;

import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import lanternshed.core.measure.Sha256;
import lanternshed.core.plan.PlanRequest.Carried;

/** Images and files of a test, by their digest. */
final class MemoryStock implements Stock {
  final Map<String, byte[]> images = new TreeMap<>();

  Carried add(String title, int bytes, int id) {
    byte[] b = new byte[bytes];
    new Random(bytes).nextBytes(b);
    return new Carried(title, put(b), bytes, id);
  }

  /** Keeps a content under its digest. */
  String put(byte[] b) {
    String sha = HexFormat.of().formatHex(Sha256.fresh().digest(b));
    images.put(sha, b);
    return sha;
  }

  @Override
  public Optional<Content> find(String sha256) {
    return Optional.ofNullable(images.get(sha256)).map(Stock::held);
  }
}
