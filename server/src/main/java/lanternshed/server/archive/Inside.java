package lanternshed.server.archive;

/** Where what lies in the archive of a job. */
final class Inside {
  /** All that was written down. */
  static final String ROWS = "job.json";

  /** The profile of a machine that does not ship. */
  static final String MACHINE = "machine.json";

  private Inside() {}

  static String image(String sha256) {
    return "images/" + sha256 + ".img";
  }

  static boolean isImage(String path) {
    return path.startsWith("images/");
  }

  static String picture(long id) {
    return "pictures/" + id + ".jpg";
  }

  static String file(String sha256) {
    return "files/" + sha256;
  }
}
