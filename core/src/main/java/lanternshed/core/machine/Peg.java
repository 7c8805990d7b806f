package lanternshed.core.machine;

import lanternshed.core.measure.Sum;

/**
 * One ceiling at its depth.
 *
 * @param sectors how many sectors of 512 bytes pass
 * @param scope whether it limits the whole medium or each volume
 * @param because the sum that leads to it, its reason, and what lifts it
 */
public record Peg(String rule, String name, long sectors, Scope scope, Sum because) {

  /** What a peg limits. */
  public enum Scope {
    MEDIUM,
    VOLUME
  }

  /** Whether something that ends before sector {@code end} is above this peg. */
  public boolean holds(long end) {
    return end <= sectors;
  }
}
