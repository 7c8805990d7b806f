package lanternshed.core.work;

/**
 * Is told by long work how far it is, many times a second.
 *
 * <p>A listener stops the work by throwing {@link StoppedException}; the work leaves everything it
 * has in order and passes it on.
 */
@FunctionalInterface
public interface Progress {
  /** Nobody listens. */
  Progress NONE = (phase, done, total) -> {};

  /**
   * @param phase what is being done, in a few words
   * @param done bytes of this phase
   * @param total bytes that this phase will have
   */
  void at(String phase, long done, long total);
}
