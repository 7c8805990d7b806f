package lanternshed.core.cpu;

/** Classes of processors by what they add. */
public enum Level {
  I8086("8086"),
  I80186("80186"),
  I80286("80286"),
  I80386("80386");

  private final String title;

  Level(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }

  boolean atLeast(Level other) {
    return compareTo(other) >= 0;
  }
}
