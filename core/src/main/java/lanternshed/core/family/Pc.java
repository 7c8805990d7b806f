package lanternshed.core.family;

import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;

/** PCs: a table in sector 0, letters from C on, firmware that counts in C/H/S. */
final class Pc implements Family {
  private static final BootPath BOOT = new PcBoot();

  @Override
  public String key() {
    return "pc";
  }

  @Override
  public boolean countsHeads() {
    return true;
  }

  @Override
  public String letter(int volume) {
    return String.valueOf((char) ('C' + volume));
  }

  @Override
  public Grid grid(Setup setup, Geometry geometry) {
    return Grid.ofHeads(geometry);
  }

  @Override
  public String letterReason() {
    return "First the primary volume of each drive, then the volumes of the extended container, in"
        + " their order.";
  }

  @Override
  public Optional<BootPath> boot() {
    return Optional.of(BOOT);
  }

  @Override
  public List<MachineStep> steps(Setup setup, Pegs pegs, List<Laid> volumes) {
    Geometry g = pegs.geometry();
    Profile.Firmware firmware = setup.firmware();
    String values = Say.count(g.cylinders()) + " · " + g.heads() + " · " + g.sectors();
    MachineStep step;
    if (firmware.userType() > 0) {
      step =
          new MachineStep(
              "In the firmware's setup choose type "
                  + firmware.userType()
                  + " and type cylinders, heads, sectors",
              values,
              "");
    } else if (pegs.typeRow().isPresent()) {
      step =
          new MachineStep(
              "In the firmware's setup choose the drive type",
              "" + pegs.typeRow().get().number(),
              "");
    } else if (!firmware.obtain().isEmpty()) {
      step = new MachineStep(firmware.obtain(), "", "");
    } else {
      step =
          new MachineStep(
              "Let the firmware ask the card (" + firmware.translation().title() + ")", "", values);
    }
    return List.of(step);
  }
}
