package lanternshed.core.cpu;

import java.util.Arrays;

/** Classes of processors by what they add. */
public enum Level {
  I8086("8086"),
  I80186("80186"),
  I80286("80286"),
  I80386("80386"),
  I80486("80486"),
  I80586("80586");

  private final String title;

  Level(String title) {
    this.title = title;
  }

  /** The class of that title; the last one for any other, which machines of today are. */
  public static Level of(String title) {
    return Arrays.stream(values()).filter(l -> l.title.equals(title)).findFirst().orElse(last());
  }

  /** The one that has all instructions that are known here. */
  public static Level last() {
    return values()[values().length - 1];
  }

  public String title() {
    return title;
  }

  public boolean atLeast(Level other) {
    return compareTo(other) >= 0;
  }
}
