package lanternshed.core.family;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;

/**
 * P-31: cards with slots of the machine's own at the front, which its own tool fills, and a volume
 * for the desktop behind them. Slots count sectors of 256 bytes, the table those of 512.
 */
final class Slots implements Family {
  /** 65 535 sectors of 256 bytes, and the broken one behind them (P-31a). */
  private static final long SLOT_SECTORS = 32_768;

  @Override
  public String key() {
    return "slots";
  }

  @Override
  public long slotSectors() {
    return SLOT_SECTORS;
  }

  @Override
  public String letter(int volume) {
    return volume < 0 ? "slot " + -volume : "desktop";
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofSteps(Grid.FLASH_STEP, Grid.FLASH_STEP);
  }

  @Override
  public String letterReason() {
    return "The machine numbers its slots; the volume behind them is the desktop's.";
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    List<MachineStep> out = new ArrayList<>();
    for (MachineStep m : Family.named(setup)) {
      out.add(m);
      if (m.value().isEmpty() || out.size() > 2) continue;
      for (Laid v : volumes) {
        if (v.type().isEmpty()) {
          String place = v.letter() + ", “" + v.label() + "”";
          long first = v.start() * 512 / v.unitBytes();
          out.add(new MachineStep(place, "" + v.units(), "from native sector " + first + " on"));
        }
      }
    }
    return out;
  }
}
