package lanternshed.core.kind;

/** What a file can be to a machine's loader. */
public enum Kind {
  RECORDED_TAPE("recorded tape", "TAPES"),
  TAPE_IMAGE("tape image", "TAPES"),
  DISK_IMAGE("disk image", "DISKS"),
  SEGMENTS("program in segments", "PROGRAMS"),
  PROGRAM("program", "PROGRAMS"),
  BASIC("BASIC as tokens", "BASIC"),
  TEXT("text", "TEXTS"),
  PACKED("packed", "PACKED"),
  ROM("ROM by its length", "ROMS"),
  OTHER("not known", "OTHERS");

  private final String words;
  private final String folder;

  Kind(String words, String folder) {
    this.words = words;
    this.folder = folder;
  }

  public String words() {
    return words;
  }

  /** The folder where a library keeps such files. */
  public String folder() {
    return folder;
  }
}
