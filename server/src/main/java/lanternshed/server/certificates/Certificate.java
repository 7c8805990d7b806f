package lanternshed.server.certificates;

import java.time.Instant;
import java.util.List;
import lanternshed.core.work.Span;

/**
 * What is certified of one wiping, as it goes out in JSON.
 *
 * @param form which form this text has; a later one gets another number
 * @param sectors of 512 bytes
 * @param method with what it was overwritten, in words
 * @param readBack what was read back, in words
 * @param looked sectors that were read back
 * @param unwritten could not be overwritten
 * @param unread did not read back
 * @param otherwise read back as something else
 * @param mediumSha256 of the whole medium as it read back; "" where not all of it did
 * @param outOfReach what no writing reaches on such a medium
 * @param kept images on the shelf of what was on it
 * @param by who did it, as they call themselves
 */
public record Certificate(
    String form,
    Medium medium,
    String method,
    String readBack,
    long looked,
    boolean wiped,
    String sentence,
    List<Span> unwritten,
    List<Span> unread,
    List<Span> otherwise,
    String mediumSha256,
    String outOfReach,
    List<Kept> kept,
    String by,
    Instant begun,
    Instant ended) {
  public static final String FORM = "wiping certificate 1";

  /** The medium itself. */
  public record Medium(
      String name, String kind, String serial, boolean standIn, long sectors, String size) {}

  /** An image on the shelf of what was on it before. */
  public record Kept(String job, String image, String sha256, long lostSectors) {}
}
