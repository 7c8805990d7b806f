package lanternshed.core.container;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.Optional;
import lanternshed.core.measure.ShedException;

/**
 * An image as it streams out of its container, out of two where it was packed twice. Whatever an
 * unpacker throws at damaged content is one sentence here; what the source itself throws passes.
 */
public final class Unpacked implements AutoCloseable {
  private final Container form;
  private final Container.Content content;
  private final Source source;
  private final InputStream stream;

  /** The packed file inside, where it is packed twice. */
  private final Optional<Unpacked> inner;

  Unpacked(Container form, Container.Content content, Source source, Inside inside)
      throws IOException {
    this.form = form;
    this.content = content;
    this.source = source;
    this.stream = form.packed() ? new Guarded(content.stream(), source) : content.stream();
    this.inner = inside.of(stream);
  }

  /** What is inside a stream that was unpacked. */
  interface Inside {
    Optional<Unpacked> of(InputStream stream) throws IOException;
  }

  /** The outer form. */
  public Container form() {
    return form;
  }

  public InputStream stream() {
    return inner.map(Unpacked::stream).orElse(stream);
  }

  /**
   * Called when all of the stream was read: its sum must be right and nothing may follow.
   *
   * @throws ShedException when it is damaged or a second image is in it
   */
  public void end() throws IOException {
    if (inner.isPresent()) {
      inner.get().end();
      // What the unpacker inside did not need belongs to the sum of this one all the same.
      stream.transferTo(OutputStream.nullOutputStream());
    }
    guarded(
        source,
        () -> {
          content.end();
          return this;
        });
  }

  @Override
  public void close() throws IOException {
    content.stream().close();
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
