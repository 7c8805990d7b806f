package lanternshed.core.boot.pc;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.LongFunction;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.cpu.Bus;
import lanternshed.core.cpu.Cpu;
import lanternshed.core.cpu.Memory;
import lanternshed.core.cpu.Stop;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/**
 * The calls of a PC's firmware as a start needs them: screen, disk, memory, keys and clock. Each
 * vector leads to three bytes in segment F000 that come back here, so that code which hooks a
 * vector is run as it is. Writes go into an overlay.
 */
final class Firmware implements Bus {
  private static final int STUBS = 0x1000;
  private static final int SEGMENT = 0xF000;
  private static final int SECTOR = 512;
  private static final int DRIVE = 0x80;
  private static final int COLUMNS = 80;
  private static final int ROWS = 25;
  private static final int VIDEO = 0xB8000;
  private static final int CURSOR = 0x450;
  private static final int TICKS = 0x46C;
  private static final int LIST = 0xE401;
  private static final int BOOT_SECTOR = 0x7C00;

  /** Halts in a row, each ended by the clock, after which nothing else will happen. */
  private static final int MOST_HALTS = 400;

  /** Steps that moving a sector counts for. */
  private static final int WORK_A_SECTOR = 128;

  /** Sectors of the overlay; who writes more formats, and does not start. */
  private static final int MOST_WRITTEN = 4096;

  /** A program that asks the clock so often waits for time to pass. */
  private static final int TICKS_A_CALL = 4;

  /** It waits for a key. */
  static final class Asks extends RuntimeException {
    private static final long serialVersionUID = 1;

    Asks() {
      super(null, null, false, false);
    }
  }

  /** It says that there is nothing to start. */
  static final class Nothing extends RuntimeException {
    private static final long serialVersionUID = 1;
    private final boolean anew;

    /**
     * @param anew whether it asks for another start, rather than giving up
     */
    Nothing(boolean anew) {
      super(null, null, false, false);
      this.anew = anew;
    }

    String sentence() {
      return anew
          ? "Its code asks the firmware to start anew (INT 19h): from this drive it would go round."
          : "Its code gives up (INT 18h): the firmware is told that there is nothing to start.";
    }
  }

  /** It stands still. */
  static final class Still extends RuntimeException {
    private static final long serialVersionUID = 1;

    Still() {
      super(null, null, false, false);
    }
  }

  final List<Rehearsal.Read> reads = new ArrayList<>();
  long count;
  private final Medium medium;
  private final Around facts;
  private final LongFunction<Optional<Place>> what;
  private final List<Around.Drive> drives = new ArrayList<>();

  /** Sectors of the first drive as they were written, and of the second. */
  private final List<Map<Long, byte[]>> written = List.of(new HashMap<>(), new HashMap<>());

  /** From where in memory to which sector what lies there was read. */
  private final TreeMap<Integer, Long> loaded = new TreeMap<>();

  /** Places of the volume whose boot sector runs; null until they are asked for. */
  private List<Place> running;

  /** Keys that were taken. */
  private int typed;

  private PcRehearsal.Loader loader;
  private String nameless = "";
  private int halts;
  private int looks;
  private int status;
  private Memory memory;

  Firmware(Medium medium, Around facts, LongFunction<Optional<Place>> what) {
    this.medium = medium;
    this.facts = facts;
    this.what = what;
    drives.add(new Around.Drive(medium, facts.shown(), facts.reach()));
    facts.second().ifPresent(drives::add);
  }

  /** Vectors, the firmware's own data, an empty screen, and the registers of a start. */
  void powerOn(Cpu cpu) {
    memory = cpu.memory();
    for (int n = 0; n < 256; n++) {
      int stub = STUBS + n * 4;
      memory.put16(n * 4, stub);
      memory.put16(n * 4 + 2, SEGMENT);
      byte[] code = {(byte) 0xF1, (byte) n, (byte) 0xCF};
      memory.put((SEGMENT << 4) + stub, code, 0, code.length);
    }
    memory.put16(0x410, 0x0061);
    memory.put16(0x413, 640);
    memory.put8(0x449, 3);
    memory.put16(0x44A, COLUMNS);
    memory.put16(0x460, 0x0607);
    memory.put16(0x463, 0x3D4);
    memory.put8(0x475, drives.size());
    memory.put8(0x484, ROWS - 1);
    byte[] floppy = {(byte) 0xDF, 2, 0x25, 2, 18, 0x1B, (byte) 0xFF, 0x6C, (byte) 0xF6, 15, 8};
    table(0x1E, 0xEFC7, floppy);
    for (int i = 0; i < drives.size(); i++) {
      byte[] disk = new byte[16];
      Geometry g = drives.get(i).shown();
      Bytes.put16(disk, 0, g.cylinders());
      disk[2] = (byte) g.heads();
      disk[14] = (byte) g.sectors();
      table(i == 0 ? 0x41 : 0x46, LIST + i * disk.length, disk);
    }
    // The last bytes of the segment: a date and the model of an AT.
    memory.put((SEGMENT << 4) + 0xFFF5, "01/15/88".getBytes(StandardCharsets.US_ASCII), 0, 8);
    memory.put8((SEGMENT << 4) + 0xFFFE, 0xFC);
    clear(0x07);
    cpu.word(Cpu.SP, 0x400);
    cpu.segment(Cpu.SS, 0x30);
    cpu.word(Cpu.DX, DRIVE);
    cpu.flags(Cpu.INTERRUPTS | 2);
  }

  private void table(int vector, int offset, byte[] b) {
    memory.put((SEGMENT << 4) + offset, b, 0, b.length);
    memory.put16(vector * 4, offset);
    memory.put16(vector * 4 + 2, SEGMENT);
  }

  @Override
  public int in(int port, int bytes) {
    return switch (port) {
      // Keyboard controller: nothing to read, ready to be written. A20 by port 92.
      case 0x64 -> 0x10;
      case 0x92 -> memory.a20() ? 2 : 0;
      case 0x3DA -> ++looks & 9;
      case 0x61 -> 0x10;
      default -> bytes == 1 ? 0xFF : bytes == 2 ? 0xFFFF : -1;
    };
  }

  @Override
  public void out(int port, int value, int bytes) {
    if (port == 0x92) memory.a20((value & 2) != 0);
    if (port == 0x60 && (value == 0xDF || value == 0xDD)) memory.a20(value == 0xDF);
  }

  @Override
  public void arrived(Cpu cpu, int segment, int offset) {
    PcRehearsal.arrived(this, cpu, segment, offset);
  }

  @Override
  public int halted(Cpu cpu) {
    boolean deaf = (cpu.flags() & Cpu.INTERRUPTS) == 0;
    if (deaf || ++halts > MOST_HALTS) throw new Still();
    return 8;
  }

  @Override
  public void service(Cpu cpu, int number) {
    if (number != 8 && number != 0x1C) halts = 0;
    switch (number) {
      case 0x08 -> memory.put32(TICKS, memory.u32(TICKS) + 1);
      case 0x10 -> video(cpu);
      case 0x11 -> cpu.word(Cpu.AX, memory.u16(0x410));
      case 0x12 -> cpu.word(Cpu.AX, memory.u16(0x413));
      case 0x13 -> disk(cpu);
      case 0x14 -> cpu.high(Cpu.AX, 0x80);
      case 0x15 -> system(cpu);
      case 0x16 -> keys(cpu);
      case 0x17 -> cpu.high(Cpu.AX, 0x30);
      case 0x18, 0x19 -> throw new Nothing(number == 0x19);
      case 0x1A -> clock(cpu);
      case 0x00 -> throw new Stop("It divides by zero, or the quotient has no room.");
      case 0x06 -> throw new Stop("It meets an instruction that this processor does not have.");
      default -> {}
    }
  }

  // ---- screen -----------------------------------------------------------------------------------

  List<String> screen(Cpu cpu) {
    List<String> out = new ArrayList<>();
    for (int row = 0; row < ROWS; row++) {
      StringBuilder line = new StringBuilder();
      for (int c = 0; c < COLUMNS; c++) {
        int x = cpu.memory().u8(VIDEO + (row * COLUMNS + c) * 2);
        line.append(x >= 0x20 && x < 0x7F ? (char) x : x == 0 || x == 0xFF ? ' ' : '·');
      }
      out.add(line.toString().stripTrailing());
    }
    return PcRehearsal.trimmed(out);
  }

  private void clear(int attribute) {
    for (int i = 0; i < COLUMNS * ROWS; i++) memory.put16(VIDEO + i * 2, attribute << 8 | 0x20);
  }

  private void video(Cpu cpu) {
    int call = cpu.high(Cpu.AX);
    if (call == 6 || call == 7 || call == 0) cpu.charge((long) COLUMNS * ROWS);
    if (call == 9 || call == 0xA || call == 0x13) cpu.charge(10L * cpu.word(Cpu.CX));
    if (call == 0x0E) cpu.charge(COLUMNS);
    int row = memory.u8(CURSOR + 1);
    int column = memory.u8(CURSOR);
    switch (call) {
      case 0x00 -> {
        clear(7);
        memory.put16(CURSOR, 0);
      }
      case 0x02 -> memory.put16(CURSOR, cpu.word(Cpu.DX));
      case 0x03 -> {
        cpu.word(Cpu.DX, memory.u16(CURSOR));
        cpu.word(Cpu.CX, 0x0607);
      }
      case 0x06, 0x07 -> scroll(cpu);
      case 0x08 -> cpu.word(Cpu.AX, memory.u16(VIDEO + (row * COLUMNS + column) * 2));
      case 0x09, 0x0A -> {
        for (int i = 0; i < Math.min(cpu.word(Cpu.CX), COLUMNS * ROWS); i++) {
          put(row * COLUMNS + column + i, cpu.low(Cpu.AX));
        }
      }
      case 0x0E -> say(cpu.low(Cpu.AX));
      case 0x0F -> {
        cpu.word(Cpu.AX, COLUMNS << 8 | 3);
        cpu.high(Cpu.BX, 0);
      }
      case 0x13 -> {
        memory.put16(CURSOR, cpu.word(Cpu.DX));
        int at = (cpu.segment(Cpu.ES) << 4) + cpu.word(Cpu.BP);
        int by = (cpu.low(Cpu.AX) & 2) != 0 ? 2 : 1;
        for (int i = 0; i < cpu.word(Cpu.CX); i++) say(memory.u8(at + i * by));
      }
      default -> {}
    }
  }

  private void put(int cell, int c) {
    if (cell < COLUMNS * ROWS) memory.put8(VIDEO + cell * 2, c);
  }

  private void scroll(Cpu cpu) {
    int lines = cpu.low(Cpu.AX);
    if (lines == 0 || lines >= ROWS) clear(cpu.high(Cpu.BX));
    else for (int i = 0; i < lines && cpu.high(Cpu.AX) == 6; i++) up();
  }

  private void up() {
    int line = COLUMNS * 2;
    byte[] b = memory.get(VIDEO + line, line * (ROWS - 1));
    memory.put(VIDEO, b, 0, b.length);
    for (int c = 0; c < COLUMNS; c++) memory.put16(VIDEO + line * (ROWS - 1) + c * 2, 0x720);
  }

  private void say(int c) {
    int row = memory.u8(CURSOR + 1);
    int column = memory.u8(CURSOR);
    switch (c) {
      case 7 -> {}
      case 8 -> column = Math.max(0, column - 1);
      case 10 -> row++;
      case 13 -> column = 0;
      default -> {
        put(row * COLUMNS + column, c);
        column++;
      }
    }
    if (column == COLUMNS) {
      column = 0;
      row++;
    }
    if (row >= ROWS) {
      up();
      row = ROWS - 1;
    }
    memory.put16(CURSOR, row << 8 | column);
  }

  // ---- disk -------------------------------------------------------------------------------------

  private void disk(Cpu cpu) {
    int call = cpu.high(Cpu.AX);
    if (call == 1) {
      cpu.high(Cpu.AX, status);
      cpu.carry(status != 0);
      return;
    }
    int number = cpu.low(Cpu.DX) - DRIVE;
    if (number < 0 || number >= drives.size()) {
      if (call == 8) cpu.low(Cpu.DX, 0);
      // A time-out: there is no such drive, or no floppy in it.
      answer(cpu, call == 0 || call == 0x15 ? 0 : 0x80);
      if (call == 0x15) cpu.high(Cpu.AX, 0);
      return;
    }
    switch (call) {
      case 0x00, 0x04, 0x0C, 0x0D, 0x10, 0x11, 0x14, 0x09 -> answer(cpu, 0);
      case 0x02, 0x03 -> byPlace(cpu, call == 3);
      case 0x08 -> parameters(cpu);
      case 0x15 -> {
        long sectors = drives.get(number).shown().total();
        answer(cpu, 0);
        cpu.high(Cpu.AX, 3);
        cpu.word(Cpu.CX, (int) (sectors >> 16));
        cpu.word(Cpu.DX, (int) sectors);
      }
      default -> {
        if (facts.extended() && call >= 0x41 && call <= 0x48) extended(cpu, call);
        else answer(cpu, 1);
      }
    }
  }

  private void answer(Cpu cpu, int code) {
    status = code;
    cpu.high(Cpu.AX, code);
    cpu.carry(code != 0);
  }

  private void parameters(Cpu cpu) {
    Geometry g = asked(cpu).shown();
    int last = g.cylinders() - 1;
    answer(cpu, 0);
    cpu.word(Cpu.CX, (last & 0xFF) << 8 | last >> 2 & 0xC0 | g.sectors() & 0x3F);
    cpu.word(Cpu.DX, g.heads() - 1 << 8 | drives.size());
    cpu.low(Cpu.BX, 0);
  }

  /** The drive that a call is about. */
  private Around.Drive asked(Cpu cpu) {
    return drives.get(cpu.low(Cpu.DX) - DRIVE);
  }

  private void byPlace(Cpu cpu, boolean write) {
    Geometry g = asked(cpu).shown();
    int cylinder = cpu.high(Cpu.CX) | (cpu.low(Cpu.CX) & 0xC0) << 2;
    int head = cpu.high(Cpu.DX);
    int sector = cpu.low(Cpu.CX) & 0x3F;
    int n = cpu.low(Cpu.AX);
    long lba = ((long) cylinder * g.heads() + head) * g.sectors() + sector - 1;
    String asked = cylinder + "/" + head + "/" + sector;
    boolean there =
        sector >= 1 && sector <= g.sectors() && head < g.heads() && cylinder < g.cylinders();
    int at = (cpu.segment(Cpu.ES) << 4) + cpu.word(Cpu.BX);
    boolean done = transfer(cpu, asked, lba, n, at, there, write);
    answer(cpu, done ? 0 : 4);
    if (!done) cpu.low(Cpu.AX, 0);
  }

  private void extended(Cpu cpu, int call) {
    int packet = (cpu.segment(Cpu.DS) << 4) + cpu.word(Cpu.SI);
    switch (call) {
      case 0x41 -> {
        boolean known = cpu.word(Cpu.BX) == 0x55AA;
        answer(cpu, known ? 0 : 1);
        if (!known) return;
        cpu.word(Cpu.BX, 0xAA55);
        cpu.high(Cpu.AX, 0x21);
        cpu.word(Cpu.CX, 1);
      }
      case 0x42, 0x43 -> {
        int n = memory.u16(packet + 2);
        int at = (memory.u16(packet + 6) << 4) + memory.u16(packet + 4);
        long lba = memory.u32(packet + 8) & 0xFFFF_FFFFL | (long) memory.u32(packet + 12) << 32;
        answer(cpu, transfer(cpu, "LBA " + lba, lba, n, at, true, call == 0x43) ? 0 : 4);
      }
      case 0x44, 0x47 -> answer(cpu, 0);
      case 0x48 -> {
        Around.Drive d = asked(cpu);
        Geometry g = d.shown();
        memory.put16(packet, 26);
        memory.put16(packet + 2, 2);
        memory.put32(packet + 4, g.cylinders());
        memory.put32(packet + 8, g.heads());
        memory.put32(packet + 12, g.sectors());
        memory.put32(packet + 16, (int) d.medium().sectors());
        memory.put32(packet + 20, (int) (d.medium().sectors() >> 32));
        memory.put16(packet + 24, SECTOR);
        answer(cpu, 0);
      }
      default -> answer(cpu, 1);
    }
  }

  private boolean transfer(
      Cpu cpu, String asked, long lba, int n, int at, boolean there, boolean write) {
    int drive = cpu.low(Cpu.DX) - DRIVE;
    long end = Math.min(asked(cpu).reach(), asked(cpu).medium().sectors());
    boolean granted = there && n > 0 && n <= 128 && lba >= 0 && lba + n <= end;
    boolean done = granted && (!write || written.get(drive).size() <= MOST_WRITTEN);
    if (done) cpu.charge((long) n * WORK_A_SECTOR);
    try {
      for (int i = 0; i < n && done; i++) move(drive, lba + i, at + i * SECTOR, write);
    } catch (MediumException e) {
      // A sector that does not come back is what the firmware says of it: an error.
      done = false;
    }
    if (!write) told(cpu, asked, lba, n, done);
    return done;
  }

  private void move(int drive, long lba, int at, boolean write) {
    if (write) {
      written.get(drive).put(lba, memory.get(at, SECTOR));
      return;
    }
    byte[] b = written.get(drive).get(lba);
    memory.put(at, b == null ? drives.get(drive).medium().sector(lba) : b, 0, SECTOR);
    // What lies there is known of the drive that starts.
    if (drive == 0) loaded.put(at, lba);
    else loaded.remove(at);
  }

  private void told(Cpu cpu, String asked, long lba, int n, boolean granted) {
    count++;
    if (reads.size() >= Rehearsal.MOST_READS) return;
    // Behind the call's own three words on the stack stands where it came from.
    int sp = (cpu.segment(Cpu.SS) << 4) + cpu.word(Cpu.SP);
    String from = String.format(Locale.ROOT, "%04X:%04X", memory.u16(sp + 2), memory.u16(sp));
    boolean second = cpu.low(Cpu.DX) != DRIVE;
    String there = second ? "the second drive" : what.apply(lba).map(Firmware::words).orElse("");
    reads.add(new Rehearsal.Read(asked, lba, n, there, from, !granted, second));
  }

  private static String words(Place p) {
    return p.path().isEmpty() ? p.kind() : p.path();
  }

  /** The sector whose bytes lie at a place in memory, as they were read; −1 where none does. */
  private long sectorAt(int at) {
    Map.Entry<Integer, Long> e = loaded.floorEntry(at);
    if (e == null || at - e.getKey() >= SECTOR) return -1;
    byte[] there = memory.get(e.getKey(), SECTOR);
    if (Bytes.allZero(there, at - e.getKey(), SECTOR)) return -1;
    try {
      return Arrays.equals(there, medium.sector(e.getValue())) ? e.getValue() : -1;
    } catch (MediumException x) {
      return -1;
    }
  }

  /** What lies at a sector: as it was told, or else in the volume whose boot sector runs. */
  private Optional<Place> place(long lba) {
    Optional<Place> told = what.apply(lba);
    Long boot = loaded.get(BOOT_SECTOR);
    if (lba < 0 || boot == null || told.filter(p -> p.kind().equals("file")).isPresent()) {
      return told;
    }
    if (running == null) {
      running = placesOf(boot);
    }
    return running.stream()
        .map(p -> p.moved(boot))
        .filter(p -> p.kind().equals("file") && lba >= p.start() && lba < p.start() + p.length())
        .findFirst()
        .or(() -> told);
  }

  /** The places of the volume that begins at a sector; none where it does not read. */
  private List<Place> placesOf(long start) {
    try {
      return Opener.recognise(Opener.slice(medium, start, medium.sectors() - start), Hint.PART)
          .flatMap(Recognised::volume)
          .map(Volume::places)
          .orElse(List.of());
    } catch (ShedException e) {
      return List.of();
    }
  }

  /** The file that is entered at a place, so many bytes behind its first; "" where none is. */
  String entered(int at, int skip) {
    long lba = sectorAt(at);
    return place(lba)
        .filter(p -> p.kind().equals("file") && p.start() + skip / SECTOR == lba)
        .map(Place::path)
        .orElse("");
  }

  void entered(PcRehearsal.Loader by) {
    loader = by;
  }

  Optional<PcRehearsal.Loader> loader() {
    return Optional.ofNullable(loader);
  }

  /** Whether it is followed behind its loader's entry. */
  boolean goesOn() {
    return facts.past();
  }

  /** Notes that a loader's place was entered with what was read from sectors of no file. */
  void enteredNameless(int segment, int offset) {
    long lba = sectorAt((segment << 4) + offset);
    if (lba < 0 || !nameless.isEmpty()) return;
    nameless =
        String.format(
            Locale.ROOT,
            "%04X:%04X, where a loader begins, is entered with what was read from sector %s. No file"
                + " lies there; one that was deleted still starts until its sectors are written over.",
            segment,
            offset,
            Say.count(lba));
  }

  /** What {@link #enteredNameless} noted first; "" for nothing. */
  String nameless() {
    return nameless;
  }

  /** Where the code that runs was read from, as the end of a sentence; "" where that is unknown. */
  String origin(Cpu cpu) {
    long lba = sectorAt((cpu.segment(Cpu.CS) << 4) + cpu.ip());
    return lba < 0 ? "" : " This code was read from sector " + Say.count(lba) + ".";
  }

  /** The file whose code runs; "" where none does. */
  String running(Cpu cpu) {
    return place(sectorAt((cpu.segment(Cpu.CS) << 4) + cpu.ip()))
        .filter(p -> p.kind().equals("file"))
        .map(Place::path)
        .orElse("");
  }

  // ---- the rest ---------------------------------------------------------------------------------

  private void system(Cpu cpu) {
    switch (cpu.high(Cpu.AX)) {
      case 0x24 -> {
        int f = cpu.low(Cpu.AX);
        if (f < 2) memory.a20(f == 1);
        if (f == 2) cpu.low(Cpu.AX, memory.a20() ? 1 : 0);
        if (f == 3) cpu.word(Cpu.BX, 3);
        cpu.high(Cpu.AX, 0);
        cpu.carry(false);
      }
      case 0x86 -> cpu.carry(false);
      case 0x88 -> {
        cpu.word(Cpu.AX, 15 * 1024);
        cpu.carry(false);
      }
      default -> {
        cpu.high(Cpu.AX, 0x86);
        cpu.carry(true);
      }
    }
  }

  private void keys(Cpu cpu) {
    switch (cpu.high(Cpu.AX)) {
      case 0x00, 0x10 -> {
        if (typed == facts.keys().codes().size()) throw new Asks();
        cpu.word(Cpu.AX, facts.keys().codes().get(typed++));
      }
      case 0x01, 0x11 -> {
        boolean none = typed == facts.keys().codes().size();
        cpu.zero(none);
        if (!none) cpu.word(Cpu.AX, facts.keys().codes().get(typed));
        // Who looks for a key again and again waits for one, or for time to pass.
        memory.put32(TICKS, memory.u32(TICKS) + 1);
      }
      case 0x02 -> cpu.low(Cpu.AX, 0);
      default -> {}
    }
  }

  private void clock(Cpu cpu) {
    switch (cpu.high(Cpu.AX)) {
      case 0x00 -> {
        int now = memory.u32(TICKS) + TICKS_A_CALL;
        memory.put32(TICKS, now);
        cpu.word(Cpu.CX, now >>> 16);
        cpu.word(Cpu.DX, now);
        cpu.low(Cpu.AX, 0);
      }
      case 0x02, 0x04 -> {
        cpu.word(Cpu.CX, cpu.high(Cpu.AX) == 2 ? 0x1200 : 0x1996);
        cpu.word(Cpu.DX, cpu.high(Cpu.AX) == 2 ? 0 : 0x0115);
        cpu.carry(false);
      }
      default -> {}
    }
  }
}
