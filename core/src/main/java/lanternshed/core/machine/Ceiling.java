package lanternshed.core.machine;

import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.measure.Sum;

/**
 * The fixed ceilings between a card and a file, G-2 to G-13: each with the sectors that it lets
 * through, the sum that leads there and what lifts it.
 */
public enum Ceiling {
  G_2("Plain C/H/S firmware", 1024L * 16 * 63) {
    @Override
    public Sum sum() {
      return chs(1024, 16, 63)
          .because(
              "The disk call gives 10 bits of cylinder and 6 of sector, the drive itself 4 bits of head."
                  + " Only what both can say is reachable.")
          .lift("an option ROM with translation")
          .lift("newer firmware that translates")
          .done();
    }
  },
  G_3("12-bit cylinders", 4095L * 16 * 63) {
    @Override
    public Sum sum() {
      return chs(4095, 16, 63)
          .because(
              "This firmware keeps the drive's cylinders in 12 bits. Some hang at 4 096 instead of"
                  + " clipping.")
          .lift("newer firmware")
          .lift("a card that reports at most 4 095 cylinders")
          .done();
    }
  },
  G_4("Bit-shift translation", 1024L * 128 * 63) {
    @Override
    public Sum sum() {
      return chs(1024, 128, 63)
          .because(
              "Heads are doubled and cylinders halved until they fit; doubling stops at 128 heads.")
          .lift("assisted translation")
          .done();
    }
  },
  G_5("Revised bit-shift translation", 1024L * 240 * 63) {
    @Override
    public Sum sum() {
      return chs(1024, 240, 63)
          .because("Fifteen heads are taken for sixteen first, so that doubling reaches 240.")
          .lift("assisted translation")
          .done();
    }
  },
  G_6("Disk call INT 13h", 1024L * 255 * 63) {
    @Override
    public Sum sum() {
      return chs(1024, 255, 63)
          .because(
              "The disk call gives 10 bits of cylinder, 8 of head and 6 of sector; 256 heads crash some"
                  + " systems, so 255 are used.")
          .lift("extended disk calls, and a system that uses them")
          .done();
    }
  },
  G_7("ATA C/H/S registers", 65_536L * 16 * 255) {
    @Override
    public Sum sum() {
      return chs(65_536, 16, 255)
          .because("The drive's registers have 16 bits of cylinder, 4 of head and 8 of sector.")
          .lift("LBA")
          .done();
    }
  },
  G_8("16-bit cylinder count", 65_535L * 16 * 63) {
    @Override
    public Sum sum() {
      return chs(65_535, 16, 63)
          .because("Firmware of the late 1990s counts the drive's cylinders in 16 bits.")
          .lift("newer firmware")
          .lift("a clip jumper on the drive or adapter")
          .done();
    }
  },
  G_9("28-bit LBA", 1L << 28) {
    @Override
    public Sum sum() {
      return bits(28, "ATA before its version 6 gives an LBA 28 bits.")
          .lift("48-bit LBA in firmware and driver")
          .done();
    }
  },
  G_10("6-byte SCSI commands", 1L << 21) {
    @Override
    public Sum sum() {
      return bits(21, "Old host adapters and drivers give a block number 21 bits.")
          .lift("a driver using 10-byte commands")
          .done();
    }
  },
  G_11("32-bit byte offsets", 1L << 23) {
    @Override
    public Sum sum() {
      return bits(
              23,
              "The driver addresses bytes in 32 bits; past it, writes wrap to the start and destroy the"
                  + " table.")
          .lift("a 64-bit driver")
          .lift("every volume below 4 GiB")
          .done();
    }
  },
  G_12("Signed 32-bit offsets", 1L << 22) {
    @Override
    public Sum sum() {
      return bits(22, "The driver addresses bytes in 32 bits with a sign.")
          .lift("a 64-bit driver")
          .done();
    }
  },
  G_13("32-bit sector numbers", 1L << 32) {
    @Override
    public Sum sum() {
      return bits(32, "The table's fields for start and length have 32 bits.").done();
    }
  };

  /**
   * The largest FAT16 volume: 65 524 clusters of 64 sectors, the FATs, root folder and boot sector.
   */
  private final String title;

  private final long sectors;

  Ceiling(String title, long sectors) {
    this.title = title;
    this.sectors = sectors;
  }

  /** The ceiling with the handbook's id, "G-2". */
  public static Optional<Ceiling> of(String rule) {
    return Arrays.stream(values()).filter(c -> c.rule().equals(rule)).findFirst();
  }

  public String rule() {
    return name().replace('_', '-');
  }

  public String title() {
    return title;
  }

  /** Sectors of 512 bytes that pass; the first that does not is this number. */
  public long sectors() {
    return sectors;
  }

  public abstract Sum sum();

  Sum.Builder chs(long cylinders, long heads, long perTrack) {
    return Sum.of(rule(), title)
        .line("", "cylinders", cylinders)
        .line("×", "heads", heads)
        .line("×", "sectors a track", perTrack)
        .sectorsAsSize(sectors);
  }

  Sum.Builder bits(int bits, String reason) {
    return Sum.of(rule(), title)
        .line("", "2 to the power of " + bits, 1L << bits)
        .sectorsAsSize(sectors)
        .because(reason);
  }
}
