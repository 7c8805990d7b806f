package lanternshed.core.transfer;

import java.util.ArrayList;
import java.util.List;

/** What a receiver notes: what is the same again is one line, and the log does not grow on. */
final class LineLog {
  private static final int MOST = 400;

  private final List<String> lines = new ArrayList<>();
  private String noted = "";
  private int times;

  void note(String what) {
    boolean again = what.equals(noted);
    times = again ? times + 1 : 1;
    noted = what;
    if (lines.size() == MOST) return;
    if (again) lines.remove(lines.size() - 1);
    lines.add(times == 1 ? what : what + ", " + times + " times");
  }

  List<String> lines() {
    return List.copyOf(lines);
  }
}
