package lanternshed.core;

/**
 * The one dial of tests that get better the longer they run: few turns in the test command, many in
 * {@code ./shed trials}. What has a dial carries the tag {@code trial}, what runs there alone
 * {@code only-trial}.
 */
public final class Trials {
  private static final boolean LONG = Boolean.getBoolean("trials");

  private Trials() {}

  /** How many turns to take. */
  public static int turns(int inTests, int inTrials) {
    return LONG ? inTrials : inTests;
  }
}
