package lanternshed.core.container;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;
import lanternshed.core.measure.ShedException;

/**
 * An image as it streams out of its container, out of two where it was packed twice. Whatever an
 * unpacker throws at damaged content is one sentence here; what the source itself throws passes.
 */
public final class Unpacked implements AutoCloseable {

  /** One form around what is in it. */
  record Layer(Container form, Container.Content content, Source source, InputStream stream) {
    static Layer of(Container form, InputStream file, Source source) throws IOException {
      Container.Content content = guarded(source, () -> form.open(file));
      InputStream inside = content.stream();
      return new Layer(form, content, source, new Guarded(inside, source));
    }

    void end() throws IOException {
      // What the unpacker inside did not need belongs to the sum of this one all the same.
      stream.transferTo(OutputStream.nullOutputStream());
      guarded(
          source,
          () -> {
            content.end();
            return this;
          });
    }
  }

  /** The outer one first. */
  private final List<Layer> layers;

  Unpacked(List<Layer> layers) {
    this.layers = List.copyOf(layers);
  }

  /** The outer form. */
  public Container form() {
    return layers.get(0).form();
  }

  public InputStream stream() {
    return layers.get(layers.size() - 1).stream();
  }

  /**
   * Called when all of the stream was read: sums must be right and nothing may follow.
   *
   * @throws ShedException when it is damaged or a second image is in it
   */
  public void end() throws IOException {
    for (int i = layers.size() - 1; i >= 0; i--) layers.get(i).end();
  }

  @Override
  public void close() throws IOException {
    stream().close();
  }

  /** Something that an unpacker does. */
  interface Unpacking<T> {
    T run() throws IOException;
  }

  static <T> T guarded(Source source, Unpacking<T> unpacking) throws IOException {
    try {
      return unpacking.run();
    } catch (ShedException e) {
      throw e;
    } catch (IOException e) {
      if (source.failed) throw e;
      throw damaged(e);
    } catch (RuntimeException | LinkageError e) {
      throw damaged(e);
    }
  }

  private static ShedException damaged(Throwable e) {
    return new ShedException(
        "What is packed in this file is damaged, cut off, or packed in a way that is not read. Look"
            + " whether the file is whole, or pack the image anew, and bring it in again.",
        e);
  }

  /** A stream that is looked at by blocks only. */
  abstract static class ByBlocks extends FilterInputStream {
    ByBlocks(InputStream in) {
      super(in);
    }

    @Override
    public final int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }
  }

  /** Where the packed bytes come from; remembers whether it was the one that failed. */
  static final class Source extends ByBlocks {
    private boolean failed;

    Source(InputStream in) {
      super(in);
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      try {
        return super.read(b, at, length);
      } catch (IOException e) {
        failed = true;
        throw e;
      }
    }
  }

  /** An unpacker's stream. */
  private static final class Guarded extends ByBlocks {
    private final Source source;

    Guarded(InputStream in, Source source) {
      super(in);
      this.source = source;
    }

    @Override
    public int read(byte[] b, int at, int length) throws IOException {
      return guarded(source, () -> in.read(b, at, length));
    }
  }
}
