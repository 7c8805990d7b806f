package lanternshed.core.boot.rdb;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Links;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/** Looks at each link on the bytes of a medium. */
final class RdbWalk {
  private static final String TABLE = "RDB";
  private static final String COMMANDS = "C";

  /** A start-up text of a hard drive is a page; what is longer is looked at so far. */
  private static final int MOST_TEXT = 64 << 10;

  private static final int MOST_NAMED = 5;

  /** Words of the shell itself and of its scripts, which stand in no folder. */
  private static final Set<String> RESIDENT =
      Set.of(
          "if",
          "else",
          "endif",
          "lab",
          "skip",
          "quit",
          "endskip",
          "failat",
          "echo",
          "cd",
          "path",
          "prompt",
          "set",
          "setenv",
          "getenv",
          "get",
          "unset",
          "unsetenv",
          "unalias",
          "alias",
          "ask",
          "run",
          "why",
          "fault",
          "resident",
          "stack",
          "endcli",
          "endshell",
          "newcli",
          "newshell");

  private final Medium medium;
  private final long reach;
  private final Links links = new Links();

  RdbWalk(Medium medium, long reach) {
    this.medium = medium;
    this.reach = reach;
  }

  BootChain run() {
    Opener.Opened opened = Opener.open(medium);
    Optional<Opener.Table> table = opened.table().filter(t -> t.scheme().name().equals(TABLE));
    if (table.isEmpty()) {
      links.breaks(
          "P-14", "the table", "no RDSK within the first 16 blocks", "Build the image again.");
      return links.done();
    }
    List<Finding> faults =
        table.get().reading().findings().stream()
            .filter(f -> f.rule().equals("P-14") || f.rule().equals("P-6"))
            .toList();
    if (faults.isEmpty()) links.holds("P-14", "the table", "RDSK and every PART sum to zero");
    else links.breaks("P-14", "the table", Say.lower(faults.get(0).what()), faults.get(0).todo());
    List<Integer> order = table.get().reading().startOrder();
    if (order.isEmpty()) {
      links.breaks("P-10", "a volume that may start", "no entry is marked bootable", "Mark one.");
      return links.done();
    }
    Opener.Part first =
        opened.parts().stream().filter(p -> p.entry().number() == order.get(0)).findFirst().get();
    links.holds(
        "P-10", "a volume that may start", first.entry().typeName() + " has the highest priority");
    // Whether the ROM mounts it by itself the plan knows; of the table's drivers this does.
    table.get().reading().drivers().stream()
        .filter(d -> faults.isEmpty() && first.entry().typeName().endsWith(", " + d))
        .findFirst()
        .ifPresent(
            d ->
                links.holds("P-13", "its driver", "the table holds one for " + d + ", to its end"));
    reached(first);
    Optional<Volume> volume = first.volume();
    if (volume.isEmpty()) {
      links.breaks(
          "A-2",
          "its root",
          "no root block in the middle of " + first.entry().typeName(),
          "Check the volume, or build it again.");
      return links.done();
    }
    links.holds("A-2", "its root", "root block of " + volume.get().label() + " in the middle");
    bootBlock(first, volume.get());
    startText(volume.get());
    return links.done();
  }

  private void reached(Opener.Part p) {
    String ends = "ends at " + Say.sectors(p.entry().end());
    if (p.entry().end() <= reach) links.holds("G-11", "within reach", ends);
    else
      links.breaks(
          "G-11", "within reach", ends + ", the machine reaches " + Say.count(reach), "Move it.");
  }

  /** Newer ROMs go by the flag alone; older ones want code whose sum is right. */
  private void bootBlock(Opener.Part p, Volume v) {
    byte[] b = p.slice().orElseThrow().sectors(0, 2);
    boolean code = v.bootFacts().map(BootFacts::code).orElse(false);
    boolean bare = Bytes.allZero(b, 12, b.length);
    if (code) links.holds("B-9", "the boot block", "DOS, code, and a checksum that is right");
    else if (bare)
      links.holds("B-9", "the boot block", "DOS without code: ROMs from 2.0 on ask for no more");
    else {
      links.breaks(
          "B-9",
          "the boot block",
          "code with a wrong checksum",
          "Install the boot block again, on the machine or by a rebuild.");
    }
  }

  private void startText(Volume v) {
    Optional<String> path = v.bootFacts().flatMap(f -> f.systemFiles().stream().findFirst());
    if (path.isEmpty()) {
      links.breaks(
          "B-13", "the start-up text", "there is no S/Startup-Sequence", "Copy the system on it.");
      return;
    }
    Node n = v.all().stream().filter(x -> x.path().equals(path.get())).findFirst().orElseThrow();
    StringBuilder text = new StringBuilder();
    try {
      v.read(
          n,
          (b, at, length) -> {
            int take = Math.min(length, MOST_TEXT - text.length());
            if (take > 0) text.append(new String(b, at, take, StandardCharsets.ISO_8859_1));
          });
    } catch (VolumeException e) {
      links.breaks("B-13", "the start-up text", "it does not read whole", "Check the volume.");
      return;
    }
    Set<String> called = called(text.toString());
    Set<String> files =
        v.all().stream()
            .filter(x -> !x.folder())
            .map(x -> x.path().toLowerCase(Locale.ROOT))
            .collect(Collectors.toSet());
    List<String> missing = called.stream().filter(c -> !there(files, c)).toList();
    String lines = path.get() + " calls " + Say.plural(called.size(), "command", "commands");
    if (missing.isEmpty()) {
      links.holds("B-13", "the start-up text", lines + ", all of them there");
      return;
    }
    String names = String.join(", ", missing.subList(0, Math.min(MOST_NAMED, missing.size())));
    links.breaks(
        "B-13",
        "the start-up text",
        lines + "; not there: " + names,
        "Copy them into C, or take the lines out: the text stops at the first that fails.");
  }

  /** The first word of each line, without what is resident and what names another device. */
  private static Set<String> called(String text) {
    Set<String> out = new LinkedHashSet<>();
    for (String line : text.split("\n")) {
      String word = line.strip().split("[\\s;>]", 2)[0].replace("\"", "");
      boolean plain = !word.isEmpty() && !word.startsWith(".") && !word.startsWith("<");
      if (plain && !RESIDENT.contains(word.toLowerCase(Locale.ROOT))) out.add(word);
    }
    return out;
  }

  private static boolean there(Set<String> files, String command) {
    String path = command.toLowerCase(Locale.ROOT);
    int colon = path.indexOf(':');
    if (colon > 0) {
      String device = path.substring(0, colon);
      path =
          device.equals("sys")
              ? path.substring(colon + 1)
              : device + "/" + path.substring(colon + 1);
      // A place of its own that the text assigns may be anywhere.
      if (!Set.of("sys", "c", "s", "l", "libs", "devs").contains(device)) return true;
    }
    String plain = path.startsWith(":") ? path.substring(1) : path;
    String inC = COMMANDS.toLowerCase(Locale.ROOT) + "/" + plain;
    return files.contains(plain) || files.contains(inC);
  }
}
