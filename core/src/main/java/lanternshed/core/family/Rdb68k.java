package lanternshed.core.family;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.rdb.RdbBoot;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.table.TableScheme;

/**
 * 68000 computers with a block-chained table: the table names its own geometry, volumes lie on its
 * cylinders, and the ROM asks them by priority.
 */
final class Rdb68k implements Family {
  private static final BootPath BOOT = new RdbBoot();

  /** A cylinder of 256 KiB: sixteen make flash's 4 MiB, so that both schools hold at once. */
  private static final int HEADS = 16;

  private static final int SECTORS = 32;

  /** Where tools of these machines let the first volume begin (P-10). */
  private static final int TABLE_CYLINDERS = 2;

  @Override
  public String key() {
    return "rdb68k";
  }

  @Override
  public Pegs pegs(Setup setup, Card card) {
    long cylinders = Math.max(1, card.planSectors() / (HEADS * SECTORS));
    Geometry g = new Geometry((int) Math.min(Integer.MAX_VALUE, cylinders), HEADS, SECTORS);
    return setup.pegs(card).on(g);
  }

  @Override
  public TableScheme table(Generation system) {
    return Catalogue.table("RDB");
  }

  @Override
  public String letter(int volume) {
    return "DH" + volume;
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofCylinders(geometry, TABLE_CYLINDERS);
  }

  @Override
  public String letterReason() {
    return "Each entry of the table carries its own name; the machine mounts it under that.";
  }

  @Override
  public Optional<BootPath> boot() {
    return Optional.of(BOOT);
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    Geometry g = pegs.geometry();
    String values = Say.count(g.cylinders()) + " · " + g.heads() + " · " + g.sectors();
    List<MachineStep> out = new ArrayList<>();
    if (!setup.firmware().obtain().isEmpty()) {
      out.add(new MachineStep(setup.firmware().obtain(), "", ""));
    }
    out.add(
        new MachineStep(
            "Run the machine's own drive tool and read the configuration: cylinders, heads, blocks a"
                + " track",
            "",
            values));
    for (Laid v : volumes) {
      long low = v.start() / g.perCylinder();
      long high = (v.start() + v.length()) / g.perCylinder() - 1;
      out.add(
          new MachineStep(
              "Look at "
                  + v.letter()
                  + ", “"
                  + v.label()
                  + "”: "
                  + (v.active() ? "bootable, priority 0" : "not bootable"),
              "",
              "cylinders " + low + " to " + high + ", " + v.type()));
    }
    out.addAll(Family.named(setup));
    return out;
  }
}
