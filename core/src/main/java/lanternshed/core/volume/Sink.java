package lanternshed.core.volume;

/** Takes a file's bytes as they come; may be called any number of times. */
@FunctionalInterface
public interface Sink {
  void take(byte[] bytes, int at, int length);
}
