package lanternshed.server.media;

import jakarta.persistence.EntityNotFoundException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.chain.Joint;
import lanternshed.core.container.Packer;
import lanternshed.core.container.Unpacked;
import lanternshed.core.machine.Card;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.CardStandIn;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Pace;
import lanternshed.core.node.NodeNow;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.work.Progress;
import lanternshed.core.work.TrueSize;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Rows;
import lanternshed.server.shell.Settings;
import lanternshed.server.shell.Shelf;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;

/** Opens media, makes stand-ins, and takes in images that people bring. */
@Service
public class MediaService {
  private final MediumRepository media;
  private final Shelf shelf;
  private final Settings settings;
  private final Readers readers;
  private final Clock clock;
  private final ObjectProvider<MediumUse> users;
  private final Rows rows;
  private volatile boolean hurry;

  MediaService(
      MediumRepository media,
      Shelf shelf,
      Settings settings,
      Clock clock,
      ObjectProvider<MediumUse> users,
      Readers readers,
      Rows rows) {
    this.rows = rows;
    this.readers = readers;
    this.users = users;
    this.media = media;
    this.shelf = shelf;
    this.settings = settings;
    this.clock = clock;
  }

  public List<MediumEntity> all() {
    return media.findByRemovedFalseOrderByKindAscNameAsc();
  }

  /** Name and size of some media, by id. */
  public Map<Long, String> names(List<Long> ids) {
    return media.findAllById(ids).stream()
        .collect(Collectors.toMap(MediumEntity::id, MediaService::inFigures));
  }

  /** "Saltern 120, 118.8 MiB". */
  public static String inFigures(MediumEntity m) {
    return m.name() + ", " + Say.mib(m.sectors() * 512);
  }

  MediumEntity rename(long id, String name) {
    return change(id, m -> m.setName(clean(name)));
  }

  /**
   * Says which connector a card is made for.
   *
   * @param joint its key; "" for not known
   * @throws ShedException naming the joints there are
   */
  public MediumEntity joint(long id, String joint) {
    return change(
        id,
        m -> {
          if (!m.isCard()) throw new ShedException(m.name() + " is no card.");
          m.setJoint(joint.isEmpty() ? "" : Joint.get(joint).key());
        });
  }

  /**
   * Takes a medium out of the drawer, or puts it back; its bytes stay.
   *
   * @throws ConflictException where an open job needs it
   */
  MediumEntity remove(long id, boolean removed) {
    return change(
        id,
        m -> {
          if (removed) needless(m);
          m.setRemoved(removed);
        });
  }

  private void needless(MediumEntity m) {
    users.stream()
        .flatMap(u -> u.needing(m.id()).stream())
        .findFirst()
        .ifPresent(
            who -> {
              throw new ConflictException(m.name() + " is in use by " + who + ".");
            });
  }

  public MediumEntity get(long id) {
    return media.findById(id).orElseThrow(() -> new EntityNotFoundException(missing(id)));
  }

  private static String missing(long id) {
    return "There is no medium " + id + ".";
  }

  private MediumEntity change(long id, Consumer<MediumEntity> how) {
    return rows.change(MediumEntity.class, id, missing(id), how);
  }

  /** Opens an original for reading, at the pace of the settings. */
  public Medium open(MediumEntity m) {
    return open(m, pace());
  }

  public Medium open(MediumEntity m, Pace pace) {
    Path file = m.real() ? Path.of("") : shelf.medium(m.file());
    return switch (m.kind()) {
      case FILE -> FileMedium.open(file);
      case DEVICE -> readers.openOriginal(m);
      case READER -> readers.open(m);
      case DRIVE ->
          new FailingDrive(FileMedium.open(file), Json.read(m.damage(), Damage.class), pace);
      case CARD ->
          new CardStandIn(FileMedium.open(file), m.name(), m.sectors(), m.realSectors(), pace);
    };
  }

  /**
   * Opens a card for writing; nothing but a card ever is.
   *
   * @param begun whether what was written so far lies on it, asked of a real card that was taken
   *     out since it was confirmed
   */
  public Medium openCard(MediumEntity m, Pace pace, Predicate<Medium> begun) {
    if (!m.isCard()) {
      throw new ShedException(m.name() + " is an original and is never written.");
    }
    if (m.real()) return readers.openWritable(m, begun);
    return new CardStandIn(
        FileMedium.openWritable(shelf.medium(m.file())),
        m.name(),
        m.sectors(),
        m.realSectors(),
        pace);
  }

  /**
   * Opens what is to be wiped, an old drive too; whoever asks has looked that its image is proved.
   *
   * @param begun as for a card
   */
  public Medium openToWipe(MediumEntity m, Pace pace, Predicate<Medium> begun) {
    return switch (m.kind()) {
      case CARD, READER -> openCard(m, pace, begun);
      case DEVICE -> readers.openWritable(m, begun);
      case DRIVE ->
          FailingDrive.toWipe(
              FileMedium.openWritable(shelf.medium(m.file())),
              Json.read(m.damage(), Damage.class),
              pace);
      case FILE ->
          throw new ShedException(m.name() + " is an image that was brought in, and no medium.");
    };
  }

  /** Keeps what a card holds. */
  public void holds(long id, Long image) {
    change(id, m -> m.holds(image, clock.instant()));
  }

  /** Before the first byte of a wiping: from then on there is nothing whole on it. */
  public void overwritten(long id) {
    change(id, m -> m.overwritten(clock.instant()));
  }

  /**
   * @throws ShedException where a medium was wiped, wholly or in part: nobody reads it for what it
   *     held
   */
  public void needContent(MediumEntity m) {
    if (m.overwritten().isEmpty()) return;
    throw new ShedException(
        m.name()
            + " was overwritten when it was wiped, wholly or in part; what it held is not on it any"
            + " more. Go on with the image of it that is on the shelf.");
  }

  /** Where a card lies, as somebody writes it. */
  public MediumEntity lies(long id, String place) {
    return change(id, m -> m.lies(place.replaceAll("[\\p{Cntrl}]", " ").strip()));
  }

  /**
   * A device node as a medium, only from the allow-list.
   *
   * @param card whether new images go on it; else it is an original, opened for reading only
   */
  public MediumEntity addDevice(String node, String name, boolean card) {
    NodeNow now = readers.now(node);
    long sectors = now.sectors();
    if (sectors == 0) throw new ShedException("The device " + node + " has no medium in it.");
    MediumEntity.Kind kind = card ? MediumEntity.Kind.READER : MediumEntity.Kind.DEVICE;
    for (MediumEntity other : media.findByNodeNotAndRemovedFalse("")) {
      if (!now.key().equals(keyAt(other.node()))) continue;
      if (!other.identity().isEmpty() && !other.identity().equals(now.identity())) continue;
      throw new ConflictException(
          "This device is there already, as \"" + other.name() + "\"; go on with that one.");
    }
    String serial = card ? now.serial() : node;
    MediumEntity m =
        new MediumEntity(
            clean(name),
            kind,
            serial,
            // No label is known of it: it counts with what it answers.
            0,
            sectors,
            sectors,
            "",
            shelf.newMediumFile(),
            clock.instant());
    m.at(node, now.identity());
    return media.save(m);
  }

  private String keyAt(String node) {
    try {
      return readers.now(node).key();
    } catch (ShedException e) {
      return "";
    }
  }

  /** Why nothing is written to a card in a reader as it is now; none for what is no such card. */
  public List<String> refusals(MediumEntity m) {
    return m.real() ? readers.refusals(m) : List.of();
  }

  /** A person said which card is to be written over: the one that is there now. */
  public void confirmed(long id) {
    MediumEntity now = get(id);
    if (!now.real()) return;
    String insertion = readers.insertion(now);
    change(id, m -> m.confirmed(insertion));
  }

  /**
   * What lies on a card of which the shed keeps no image: nobody has looked whether it is needed.
   *
   * @return "FAT16 CAMERA, 812 files", or that nothing known is on it; empty where its image is
   *     kept, where it was wiped, and where nothing was ever written on a stand-in
   */
  public Optional<String> unknown(MediumEntity m, Predicate<Long> kept) {
    boolean known = !m.isCard() || wiped(m) || m.holdsImage().filter(kept).isPresent();
    if (known || !m.real() && shelf.untouched(m.file(), m.created())) return Optional.empty();
    if (m.real()) return Optional.of(readers.on(m.node()));
    try (Medium card = open(m, Pace.counted())) {
      String there = Readers.volumes(Surveyor.survey(card));
      return Optional.of(there.isEmpty() ? "nothing that is known" : there);
    }
  }

  /** A real card that was out of its reader since may hold what somebody wrote elsewhere. */
  private boolean wiped(MediumEntity m) {
    boolean same = !m.real() || m.insertion().equals(readers.insertion(m));
    return m.overwritten().isPresent() && same;
  }

  /** What is typed before a card is written over: the end of its serial, or what is on it. */
  public String word(MediumEntity m) {
    if (m.real()) return readers.word(m.node());
    return m.serial().length() < 4 ? "" : m.serial().substring(m.serial().length() - 4);
  }

  /** The serial that is printed on it; "" where none is known. */
  public String printed(MediumEntity m) {
    // A drive at a node was taken in under its node.
    return m.kind() == MediumEntity.Kind.DEVICE ? readers.serial(m.node()) : m.serial();
  }

  /** While the demonstration is laid out, no stand-in takes its own time. */
  public void hurry(boolean now) {
    hurry = now;
  }

  public Pace pace() {
    return hurry || settings.pace() == 0 ? Pace.counted() : Pace.lived(settings.pace());
  }

  /** W-6's outcome: from now on the card counts with its true sectors. */
  public void sized(long id, TrueSize.Report found) {
    change(id, m -> m.sized(found));
  }

  /** The card counts with what it answers, not with its label. */
  public void measured(MediumEntity m) {
    change(m.id(), MediumEntity::measure);
  }

  public MediumEntity drive(
      String name, String serial, long sectors, Damage damage, Consumer<Medium> fill) {
    String file = shelf.newMediumFile();
    try (Medium m = FileMedium.create(shelf.medium(file), sectors)) {
      fill.accept(m);
    }
    return media.save(
        new MediumEntity(
            name,
            MediumEntity.Kind.DRIVE,
            serial,
            sectors * 512,
            sectors,
            sectors,
            Json.write(damage),
            file,
            clock.instant()));
  }

  public MediumEntity card(String name, String serial, long label, long claimed, long real) {
    String file = shelf.newMediumFile();
    FileMedium.create(shelf.medium(file), real).close();
    return media.save(
        new MediumEntity(
            name, MediumEntity.Kind.CARD, serial, label, claimed, real, "", file, clock.instant()));
  }

  /**
   * A true card for the drawer; without a measure it gets what every card of its label holds.
   *
   * @param joint the connector that it is made for, by its key; "" for not known
   * @throws ShedException before anything is made, where the figures make no card
   */
  public MediumEntity addCard(
      String name, String serial, long label, long sectors, String joint, Optional<Geometry> own) {
    long real = sectors > 0 ? sectors : new Card(name, label, 0).planSectors();
    if (real < 2048) throw new ShedException("A card of less than 1 MiB is of no use here.");
    String key = joint.isEmpty() ? "" : Joint.get(joint).key();
    if (own.isPresent() && own.get().total() > real) {
      throw new ShedException(
          "C/H/S of "
              + own.get()
              + " says "
              + Say.sectors(own.get().total())
              + ", more than the card has: "
              + Say.sectors(real)
              + ".");
    }
    MediumEntity m = card(name, serial, label, real, real);
    own.ifPresent(m::own);
    m.setJoint(key);
    if (sectors > 0) m.measure();
    return media.save(m);
  }

  /**
   * Takes in an image as it streams; raw, or gzip by its first bytes. Until it is whole it has no
   * row and nobody sees it.
   *
   * @param expected bytes that the sender announced; −1 where none were
   */
  public MediumEntity takeIn(String name, InputStream in, long expected, Progress progress)
      throws IOException {
    if (expected > 0) shelf.needRoom(expected);
    Path part = shelf.freshHalf();
    try {
      long[] got = {0};
      long came =
          copy(
              new Counted(in, got),
              part,
              () -> progress.at("taking in", got[0], Math.max(expected, got[0])));
      long bytes = unfold(part, came, progress);
      if (expected >= 0 && got[0] != expected) {
        throw new ShedException(
            "The transfer stopped half way: "
                + Say.bytes(got[0])
                + " of "
                + Say.bytes(expected)
                + " came. Nothing was kept; send it again.");
      }
      if (bytes < 512) {
        throw new ShedException(
            "\""
                + clean(name)
                + "\" has "
                + Say.bytes(bytes)
                + "; an image has at least one sector of 512 B.");
      }
      String file = shelf.newMediumFile();
      shelf.move(part, shelf.medium(file));
      MediumEntity m =
          new MediumEntity(
              clean(name),
              MediumEntity.Kind.FILE,
              "",
              bytes,
              bytes / 512,
              bytes / 512,
              "",
              file,
              clock.instant());
      m.remark(remark(shelf.medium(file)));
      return media.save(m);
    } finally {
      shelf.remove(part);
    }
  }

  /**
   * What stands out at the door: an image on which nothing is known is likely not the right file.
   */
  private static String remark(Path file) {
    try (FileMedium m = FileMedium.open(file)) {
      return Surveyor.survey(m)
          .stop()
          .map(f -> f.what() + " Look whether it is the right file, whole and unpacked.")
          .orElse("");
    }
  }

  /** Unpacks what comes, whatever its container; zeros become holes of the file. */
  private long copy(InputStream raw, Path to, Runnable told) throws IOException {
    try (Unpacked opened = Catalogue.UNPACKER.open(raw);
        RandomAccessFile out = new RandomAccessFile(to.toFile(), "rw")) {
      InputStream content = opened.stream();
      byte[] b = new byte[1 << 20];
      byte[] zeros = new byte[b.length];
      long total = 0;
      long roomAskedFor = 0;
      for (int n = content.readNBytes(b, 0, b.length);
          n > 0;
          n = content.readNBytes(b, 0, b.length)) {
        total += n;
        told.run();
        if (total > settings.mostUploadBytes()) {
          throw new ShedException(
              "The image is larger than "
                  + Say.size(settings.mostUploadBytes())
                  + ", the bound that is set.");
        }
        if (total > roomAskedFor) {
          shelf.needRoom(64 << 20);
          roomAskedFor = total + (64 << 20);
        }
        if (Arrays.equals(b, 0, n, zeros, 0, n)) out.seek(total);
        else out.write(b, 0, n);
      }
      opened.end();
      out.setLength(total);
      return beforeFooter(out, total);
    }
  }

  /**
   * A disk image whose blocks lie anywhere in its file becomes the drive that it is the image of.
   *
   * @return bytes of what lies there then
   */
  private long unfold(Path part, long bytes, Progress progress) {
    // Of the same kind as the part, so that it is swept where the program is killed meanwhile.
    Path raw = shelf.freshHalf();
    try (FileMedium file = FileMedium.open(part)) {
      Optional<Medium> drive = Catalogue.drive(file);
      if (drive.isEmpty()) return bytes;
      Medium from = drive.get();
      if (from.bytes() > settings.mostUploadBytes()) {
        throw new ShedException(
            "The drive in this image has "
                + Say.size(from.bytes())
                + "; the bound that is set is "
                + Say.size(settings.mostUploadBytes())
                + ".");
      }
      try (FileMedium to = FileMedium.create(raw, from.sectors())) {
        Copy.all(
            from,
            to,
            (n, all) -> {
              shelf.needRoom(64 << 20);
              progress.at("unfolding the image", n, all);
            });
        to.flush();
      }
      shelf.move(raw, part);
      return from.bytes();
    } finally {
      shelf.remove(raw);
    }
  }

  /** A VHD of fixed size is the image and a footer, which is cut off. */
  private static long beforeFooter(RandomAccessFile file, long bytes) throws IOException {
    if (bytes < 1024 || bytes % 512 != 0 && bytes % 512 != 511) return bytes;
    byte[] last = new byte[bytes % 512 == 0 ? 512 : 511];
    file.seek(bytes - last.length);
    file.readFully(last);
    Optional<Long> sectors = Catalogue.sectorsBeforeEnd(last, bytes);
    if (sectors.isEmpty()) return bytes;
    file.setLength(sectors.get() * 512);
    return sectors.get() * 512;
  }

  /** Everything on a medium, packed as it is read; memory does not depend on its size. */
  void pack(MediumEntity m, OutputStream to) throws IOException {
    try (Medium from = open(m, Pace.counted())) {
      Catalogue.packer("gz")
          .pack(new Packer.Parcel(from, from.bytes(), m.name(), new byte[16]), to);
    }
  }

  /** Bytes after the last whole sector of an image that was brought in. */
  public long tailBytes(MediumEntity m) {
    if (m.real()) return 0;
    try (FileMedium f = FileMedium.open(shelf.medium(m.file()))) {
      return f.tailBytes();
    }
  }

  /** The incoming file of that name, taken in; the file itself stays where it is. */
  MediumEntity takeIncoming(String name, Progress progress) throws IOException {
    Path file = shelf.incoming(name);
    try (InputStream in = Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS)) {
      return takeIn(name, in, Files.size(file), progress);
    }
  }

  /** A name that is shown and never used as a path. */
  static String clean(String name) {
    String last = name.replace('\\', '/');
    last = last.substring(last.lastIndexOf('/') + 1).replaceAll("[\\p{Cntrl}]", "").strip();
    if (last.isEmpty()) last = "image";
    return last.length() > 120 ? last.substring(0, 120) : last;
  }

  /** Counts what came over the wire, before unpacking. */
  private static final class Counted extends java.io.FilterInputStream {
    private final long[] count;

    Counted(InputStream in, long[] count) {
      super(in);
      this.count = count;
    }

    @Override
    public int read() throws IOException {
      int b = super.read();
      if (b >= 0) count[0]++;
      return b;
    }

    @Override
    public int read(byte[] b, int at, int n) throws IOException {
      int got = super.read(b, at, n);
      if (got > 0) count[0] += got;
      return got;
    }
  }

  /** The kind in words. */
  public static String inWords(MediumEntity m) {
    return switch (m.kind()) {
      case DRIVE -> "drive";
      case CARD -> "card";
      case FILE -> "image brought in";
      case DEVICE -> "device";
      case READER -> "card in a reader";
    };
  }
}
