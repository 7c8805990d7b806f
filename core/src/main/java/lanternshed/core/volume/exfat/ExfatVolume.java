package lanternshed.core.volume.exfat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * An exFAT volume, opened for reading (exFAT file system specification, August 2019). Verbs:
 * recognise, list, read, free space by its bitmap; check knows the boot checksum and the checksum
 * of entry sets. Writing is not done.
 */
public final class ExfatVolume implements Volume {
  private static final byte[] MARK = "EXFAT   ".getBytes(StandardCharsets.US_ASCII);
  private static final int FAT_OFFSET = 80;
  private static final int FAT_LENGTH = 84;
  private static final int HEAP_OFFSET = 88;
  private static final int CLUSTERS = 92;
  private static final int ROOT = 96;
  private static final int SECTOR_SHIFT = 108;
  private static final int CLUSTER_SHIFT = 109;
  private static final int ENTRY = 32;
  private static final int MOST_FOLDER_BYTES = 16 << 20;
  private static final int MOST_NODES = 1_000_000;
  private static final int MOST_DEPTH = 128;
  private static final int MOST_PATH = 4_096;
  private static final int FOLDER = 0x10;
  private static final int NO_CHAIN = 2;

  private final Medium medium;
  private final long fatAt;
  private final long fatBytes;
  private final long heapAt;
  private final long clusters;
  private final long root;
  private final int clusterBytes;

  /**
   * What stands in an entry alone.
   *
   * @param valid bytes that were written; what follows up to the length reads as zeros
   */
  private record Stream(int flags, long valid, long bytes) {
    static final Stream NONE = new Stream(0, 0, 0);
  }

  /** By first cluster; of the whole tree, which is read once. */
  private final Map<Long, Stream> streams = new HashMap<>();

  private final List<Finding> findings = new ArrayList<>();
  private final Map<Long, List<Node>> children = new HashMap<>();

  /** Folders that cannot be gone into, by path, with the reason. */
  private final Map<String, String> shut = new HashMap<>();

  private List<Node> all;

  private ExfatVolume(Medium m, byte[] b) {
    this.medium = m;
    int sector = 1 << b[SECTOR_SHIFT];
    this.clusterBytes = sector << b[CLUSTER_SHIFT];
    this.fatAt = Bytes.u32(b, FAT_OFFSET) * sector;
    this.fatBytes = Bytes.u32(b, FAT_LENGTH) * sector;
    this.heapAt = Bytes.u32(b, HEAP_OFFSET) * sector;
    this.clusters = Bytes.u32(b, CLUSTERS);
    this.root = Bytes.u32(b, ROOT);
  }

  /** A volume where the first sector says so and its figures fit the medium; empty otherwise. */
  public static Optional<ExfatVolume> recognise(Medium m) {
    if (m.sectors() < 24) return Optional.empty();
    byte[] b = m.sector(0);
    if (!Arrays.equals(b, 3, 11, MARK, 0, 8)) return Optional.empty();
    int s = b[SECTOR_SHIFT];
    int c = b[CLUSTER_SHIFT];
    if (s < 9 || s > 12 || c < 0 || s + c > 25) return Optional.empty();
    ExfatVolume v = new ExfatVolume(m, b);
    boolean fits =
        v.clusters > 0
            && v.root >= 2
            && v.root < v.clusters + 2
            && v.heapAt + v.clusters * v.clusterBytes <= m.bytes() + v.clusterBytes
            && v.fatAt + v.fatBytes <= m.bytes()
            && v.fatBytes >= (v.clusters + 2) * 4;
    return fits ? Optional.of(v) : Optional.empty();
  }

  @Override
  public String kind() {
    return "exFAT";
  }

  @Override
  public String label() {
    byte[] b = folderBytes(root());
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if ((b[at] & 0xFF) == 0x83) {
        return text(b, at + 2, Math.min(11, b[at + 1] & 0xFF));
      }
    }
    return "";
  }

  @Override
  public Use use() {
    byte[] b = folderBytes(root());
    long free = clusters;
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if ((b[at] & 0xFF) != 0x81) continue;
      long length = Math.min(Bytes.u64(b, at + 24), (clusters + 7) / 8);
      long[] used = {0};
      long[] left = {clusters};
      chain(
          Bytes.u32(b, at + 20),
          Math.max(0, length),
          false,
          (x, from, n) -> {
            for (int i = from; i < from + n && left[0] > 0; i++) {
              int bits = x[i] & 0xFF;
              if (left[0] < 8) bits &= (1 << (int) left[0]) - 1;
              used[0] += Integer.bitCount(bits);
              left[0] -= 8;
            }
          });
      free = clusters - used[0];
      break;
    }
    return new Use(clusterBytes, clusters, free, 0);
  }

  @Override
  public Node root() {
    return new Node("", "", "", true, 0, FOLDER, 0, root);
  }

  @Override
  public List<Node> list(Node folder) {
    all();
    return children.getOrDefault(folder.first(), List.of());
  }

  private List<Node> entries(Node folder) {
    byte[] b = folderBytes(folder);
    List<Node> out = new ArrayList<>();
    for (int at = 0; at + ENTRY <= b.length && b[at] != 0; at += ENTRY) {
      if ((b[at] & 0xFF) != 0x85) continue;
      int more = b[at + 1] & 0xFF;
      int end = at + (more + 1) * ENTRY;
      if (more < 2 || more > 18 || end > b.length || (b[at + ENTRY] & 0xFF) != 0xC0) continue;
      int stream = at + ENTRY;
      int length = b[stream + 3] & 0xFF;
      StringBuilder name = new StringBuilder();
      for (int n = stream + ENTRY; n < end; n += ENTRY) {
        if ((b[n] & 0xFF) == 0xC1) name.append(new String(b, n + 2, 30, StandardCharsets.UTF_16LE));
      }
      String shown = safe(name.substring(0, Math.min(length, name.length())));
      int attributes = Bytes.u16(b, at + 4);
      boolean isFolder = (attributes & FOLDER) != 0;
      long first = Bytes.u32(b, stream + 20);
      long bytes = Math.max(0, Bytes.u64(b, stream + 24));
      long valid = Math.min(bytes, Math.max(0, Bytes.u64(b, stream + 8)));
      streams.putIfAbsent(first, new Stream(b[stream + 1], valid, bytes));
      String path = folder.path().isEmpty() ? shown : folder.path() + "/" + shown;
      out.add(
          new Node(
              path,
              shown,
              shown,
              isFolder,
              isFolder ? 0 : bytes,
              attributes & 0x3F,
              (int) Bytes.u32(b, at + 12),
              first));
      if (sum(b, at, end) != Bytes.u16(b, at + 2)) {
        findings.add(
            Finding.wrong(
                "F-9",
                path,
                "The checksum of the entry of " + path + " is wrong.",
                "Compare the file with another copy."));
      }
      at = end - ENTRY;
    }
    return out;
  }

  /** The specification's checksum of an entry set; its own two bytes are left out. */
  static int sum(byte[] b, int from, int to) {
    int s = 0;
    for (int i = from; i < to; i++) {
      if (i == from + 2 || i == from + 3) continue;
      s = ((s & 1) << 15) + (s >> 1) + (b[i] & 0xFF) & 0xFFFF;
    }
    return s;
  }

  @Override
  public synchronized List<Node> all() {
    if (all != null) return all;
    List<Node> out = new ArrayList<>();
    Set<Long> seen = new HashSet<>();
    Deque<Node> todo = new ArrayDeque<>();
    todo.push(root());
    // No more bytes of folders than the volume has room for, however they overlap.
    long room = clusters * clusterBytes;
    while (!todo.isEmpty() && out.size() < MOST_NODES) {
      Node folder = todo.pop();
      String why = "";
      if (!seen.add(folder.first())) why = "begins where another folder lies already";
      else if (depth(folder) > MOST_DEPTH) why = "lies " + MOST_DEPTH + " folders deep";
      else if (folder.path().length() > MOST_PATH) why = "has too long a path";
      else if (room <= 0) why = "comes after as many folders as the volume has room for";
      else if (folder.first() < 2 || folder.first() >= clusters + 2)
        why = "begins outside the volume";
      if (!why.isEmpty()) {
        shut.put(folder.path(), why);
        findings.add(
            Finding.wrong(
                "F-9",
                folder.path(),
                "The folder " + folder.path() + " " + why + "; it is not gone into.",
                "Look at its sectors: what was in it may lie there."));
        continue;
      }
      List<Node> entries = entries(folder);
      room -= Math.max(clusterBytes, folderLength(folder));
      children.put(folder.first(), List.copyOf(entries));
      out.addAll(entries);
      for (int i = entries.size() - 1; i >= 0; i--)
        if (entries.get(i).folder()) todo.push(entries.get(i));
    }
    all = List.copyOf(out);
    return all;
  }

  private static long depth(Node n) {
    return n.path().chars().filter(c -> c == '/').count();
  }

  private long folderLength(Node folder) {
    return folder.path().isEmpty() ? 0 : Math.min(MOST_FOLDER_BYTES, stream(folder).bytes());
  }

  private Stream stream(Node n) {
    if (all == null && !streams.containsKey(n.first())) all();
    return streams.getOrDefault(n.first(), Stream.NONE);
  }

  @Override
  public Optional<String> notWhole(Node n) {
    all();
    if (shut.containsKey(n.path())) return Optional.of(shut.get(n.path()));
    long needed = n.path().isEmpty() ? clusterBytes : n.folder() ? stream(n).bytes() : n.bytes();
    if (needed == 0) return Optional.empty();
    long there = 0;
    for (long[] run : sectorsOf(n)) {
      long sectors = Math.min(run[1], medium.sectors() - run[0]);
      if (sectors <= 0) break;
      there += sectors * 512;
    }
    return there >= needed
        ? Optional.empty()
        : Optional.of("it ends " + Say.bytes(needed - there) + " before its length");
  }

  private byte[] folderBytes(Node folder) {
    boolean isRoot = folder.path().isEmpty();
    Stream s = isRoot ? Stream.NONE : streams.getOrDefault(folder.first(), Stream.NONE);
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    long most = isRoot ? MOST_FOLDER_BYTES : Math.min(MOST_FOLDER_BYTES, s.bytes());
    chain(folder.first(), most, (s.flags() & NO_CHAIN) != 0, out::write);
    return out.toByteArray();
  }

  /**
   * Where the parts of the volume lie, in sectors of 512 bytes from its start.
   *
   * @param boot length of the boot region and its copy
   */
  public record Regions(long boot, long fat, long fatLength, long heap, long heapLength) {}

  public Regions regions() {
    return new Regions(
        Math.min(fatAt, heapAt) / 512,
        fatAt / 512,
        fatBytes / 512,
        heapAt / 512,
        clusters * clusterBytes / 512);
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    List<long[]> out = new ArrayList<>();
    long per = clusterBytes / 512;
    boolean isRoot = node.path().isEmpty();
    long most = isRoot ? clusters : (length(node) + clusterBytes - 1) / clusterBytes;
    long cluster = node.first();
    for (long n = 0; n < Math.min(most, clusters); n++) {
      if (cluster < 2 || cluster >= clusters + 2) break;
      long at = heapAt / 512 + (cluster - 2) * per;
      long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
      if (last != null && last[0] + last[1] == at) last[1] += per;
      else out.add(new long[] {at, per});
      cluster = !isRoot && plain(node) ? cluster + 1 : next(cluster);
    }
    return out;
  }

  private boolean plain(Node node) {
    return (stream(node).flags() & NO_CHAIN) != 0;
  }

  /** Of a file its bytes; of a folder what its entry says. */
  private long length(Node node) {
    return node.folder() ? stream(node).bytes() : node.bytes();
  }

  @Override
  public void read(Node file, Sink sink) {
    if (file.bytes() == 0) return;
    long valid = Math.min(file.bytes(), stream(file).valid());
    long given = chain(file.first(), valid, plain(file), sink);
    if (given < valid) {
      throw new VolumeException(
          file.path() + " ends " + Say.bytes(file.bytes() - given) + " before its length.");
    }
    // What lies on the medium past the valid length is somebody else's old data.
    byte[] zeros = new byte[(int) Math.min(1 << 16, file.bytes() - valid)];
    for (long left = file.bytes() - valid; left > 0; left -= zeros.length) {
      sink.take(zeros, 0, (int) Math.min(zeros.length, left));
    }
  }

  /** Follows clusters until so many bytes were given; never round a loop. */
  private long chain(long first, long bytes, boolean plain, Sink sink) {
    long cluster = first;
    long given = 0;
    byte[] b = new byte[Math.min(clusterBytes, 1 << 20)];
    for (long steps = 0; given < bytes && steps <= clusters; steps++) {
      if (cluster < 2 || cluster >= clusters + 2) break;
      long at = heapAt + (cluster - 2) * clusterBytes;
      for (long done = 0; done < clusterBytes && given < bytes; done += b.length) {
        int n = (int) Math.min(b.length, bytes - given);
        int sectors = (n + 511) / 512;
        if ((at + done) / 512 + sectors > medium.sectors()) return given;
        medium.read((at + done) / 512, sectors, b, 0);
        sink.take(b, 0, n);
        given += n;
      }
      cluster = plain ? cluster + 1 : next(cluster);
    }
    return given;
  }

  private long next(long cluster) {
    long at = fatAt + cluster * 4;
    if (at / 512 >= medium.sectors() || cluster * 4 + 4 > fatBytes) return 0;
    return Bytes.u32(medium.sector(at / 512), (int) (at % 512));
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>();
    byte[] boot = medium.sector(0);
    int sector = 1 << boot[SECTOR_SHIFT];
    int per = sector / 512;
    long sum = 0;
    for (int s = 0; s < 11 * per && s < medium.sectors(); s++) {
      byte[] b = medium.sector(s);
      for (int i = 0; i < 512; i++) {
        if (s == 0 && (i == 106 || i == 107 || i == 112)) continue;
        sum = ((sum & 1) << 31) + (sum >> 1) + (b[i] & 0xFF) & 0xFFFF_FFFFL;
      }
    }
    if (Bytes.u32(medium.sector(11L * per), 0) != sum) {
      out.add(
          Finding.wrong(
              "F-9",
              "boot region",
              "The checksum of the boot region is wrong.",
              "Format the card again and copy the files."));
    }
    all();
    out.addAll(findings);
    return out;
  }

  private static String text(byte[] b, int at, int characters) {
    return safe(new String(b, at, characters * 2, StandardCharsets.UTF_16LE));
  }

  private static String safe(String s) {
    return s.replaceAll("[\\p{Cntrl}/\\\\]", "_");
  }
}
