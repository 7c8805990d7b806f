package lanternshed.server.jobs;

/** The state of a station. */
public enum Lamp {
  /** Not yet. */
  DARK,
  /** In hand. */
  LIT,
  /** Proved. */
  MOSS,
  /** Stopped. */
  BRICK,
  /** Not needed here. */
  DASH
}
