package lanternshed.core.kind;

/**
 * What a file is, and how that was seen.
 *
 * @param says what its structure says, in words; "" where there is no more to say
 * @param fault what of it does not agree, "its header says 720 sectors, 700 are there"; "" for
 *     nothing
 * @param seconds that a machine takes to load it from tape; 0 where it is none
 */
public record Known(Kind kind, String says, String fault, long seconds) {
  static Known of(Kind kind, String says) {
    return new Known(kind, says, "", 0);
  }

  Known faulty(String what) {
    return new Known(kind, says, what, seconds);
  }
}
