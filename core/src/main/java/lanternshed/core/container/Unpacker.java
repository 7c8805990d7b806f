package lanternshed.core.container;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.ShedException;

/**
 * Opens whatever comes by its first bytes, and once more what was packed twice.
 *
 * @param forms the first that begins so is it; the last begins as anything
 */
public record Unpacker(List<Container> forms) {

  /** An image may be packed and packed again, as when a packed one is sent in a zip. */
  private static final int MOST_LAYERS = 2;

  /** What a layer inside another may take packed: more is no image that somebody packed twice. */
  private static final long MOST_INNER_BYTES = 64L << 30;

  private static final int BUFFER = 1 << 16;

  /** The form of a file that begins so. */
  public Container of(byte[] head) {
    return forms.stream().filter(f -> f.begins(head)).findFirst().orElseThrow();
  }

  /**
   * What is inside.
   *
   * @throws ShedException where it is damaged, or known and not read
   * @throws IOException where the source itself fails
   */
  public Unpacked open(InputStream raw) throws IOException {
    List<Unpacked.Layer> layers = new ArrayList<>();
    InputStream in = raw;
    boolean more = true;
    while (more) {
      Unpacked.Layer layer = layer(in, layers.isEmpty());
      layers.add(layer);
      in = layer.stream();
      more = layer.form().packed() && layers.size() < MOST_LAYERS;
    }
    return new Unpacked(layers);
  }

  private Unpacked.Layer layer(InputStream raw, boolean outer) throws IOException {
    Unpacked.Source source = new Unpacked.Source(raw);
    BufferedInputStream in = new BufferedInputStream(source, BUFFER);
    in.mark(Container.HEAD);
    byte[] head = in.readNBytes(Container.HEAD);
    in.reset();
    Container form = of(head);
    return Unpacked.Layer.of(form, outer || !form.packed() ? in : new Bounded(in), source);
  }

  /** What is packed inside something packed, which may not take for ever to give nothing. */
  private static final class Bounded extends Unpacked.ByBlocks {
    private long left = MOST_INNER_BYTES;

    Bounded(InputStream in) {
      super(in);
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      int n = in.read(b, at, length);
      left -= Math.max(0, n);
      if (left < 0) {
        throw new ShedException(
            "What is packed inside this file is itself packed and larger than 64 GiB; unpack the"
                + " outer one and bring in what is in it.");
      }
      return n;
    }
  }
}
