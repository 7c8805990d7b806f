package lanternshed.server.reckoner;

import jakarta.validation.constraints.Size;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Chs;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.transfer.LineRehearsal;
import lanternshed.core.transfer.LineSteps;
import lanternshed.core.transfer.Load;
import lanternshed.core.transfer.Road;
import lanternshed.core.transfer.Roads;
import lanternshed.core.transfer.SerialLine;
import lanternshed.server.machines.MachineService;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The calculators. */
@RestController
@RequestMapping("/api/reckoner")
class ReckonerController {
  private final MachineService machines;

  ReckonerController(MachineService machines) {
    this.machines = machines;
  }

  record PegsView(
      List<Peg> pegs,
      Peg binding,
      long reach,
      String reachText,
      long outOfReach,
      Geometry geometry) {}

  record PlaceView(long lba, Chs place, Sum because) {}

  record SizeView(long bytes, long sectors, String decimal, String binary, Sum because) {}

  @GetMapping("/pegs")
  PegsView pegs(
      @RequestParam String machine,
      @RequestParam(defaultValue = "") String firmware,
      @RequestParam(defaultValue = "") String system,
      @RequestParam long sectors) {
    if (sectors < 1 || sectors > 1L << 40) {
      throw new ShedException("A card has between one sector and 2 to the 40th.");
    }
    Card card = new Card("a card of that size", 0, sectors);
    Pegs pegs = Setup.of(machines.get(machine), firmware, system).pegs(card);
    return new PegsView(
        pegs.pegs(),
        pegs.binding(),
        pegs.reach(),
        Say.mib(pegs.reach() * 512),
        pegs.outOfReach(card),
        pegs.geometry());
  }

  @GetMapping("/place")
  PlaceView place(
      @RequestParam int heads,
      @RequestParam int sectors,
      @RequestParam int cylinder,
      @RequestParam int head,
      @RequestParam int sector) {
    Geometry g = new Geometry(Math.max(1, cylinder + 1), heads, sectors);
    if (head < 0 || head >= heads || sector < 1 || sector > sectors || cylinder < 0) {
      throw new ShedException(
          "The place "
              + cylinder
              + "/"
              + head
              + "/"
              + sector
              + " does not exist with "
              + heads
              + " heads and "
              + sectors
              + " sectors; sectors count from 1.");
    }
    Chs at = new Chs(cylinder, head, sector);
    return new PlaceView(g.toLba(at), at, g.lbaSum(at));
  }

  /**
   * @param roads the shortest first, times in words
   */
  record RoadsView(List<RoadView> roads, List<Named> protocols, List<Named> floppies) {}

  record RoadView(String name, String time, String note, Sum because) {}

  /** A choice with its words. */
  record Named(String key, String words) {}

  @GetMapping("/roads")
  RoadsView roads(
      @RequestParam int files,
      @RequestParam long bytes,
      @RequestParam SerialLine.Protocol protocol,
      @RequestParam int rate,
      @RequestParam(defaultValue = "50") int turnaround,
      @RequestParam(defaultValue = "0") int errors,
      @RequestParam Roads.Floppy floppy,
      @RequestParam(defaultValue = "30") int change,
      @RequestParam(defaultValue = "900") int cardOut) {
    SerialLine line = new SerialLine(protocol, rate, 10, turnaround, errors);
    List<Road> roads =
        Roads.of(new Load(files, bytes), line, floppy, new Roads.Hands(change, cardOut));
    return new RoadsView(
        roads.stream()
            .map(r -> new RoadView(r.name(), Say.seconds(r.seconds()), r.note(), r.because()))
            .toList(),
        Arrays.stream(SerialLine.Protocol.values())
            .map(p -> new Named(p.name(), p.words()))
            .toList(),
        Arrays.stream(Roads.Floppy.values()).map(f -> new Named(f.name(), f.words())).toList());
  }

  /** What is done at both ends of a line, with the kinds of machine that can be chosen. */
  record LineStepsView(List<Named> ends, List<LineSteps.LineStep> steps) {}

  @GetMapping("/roads/steps")
  LineStepsView steps(
      @RequestParam SerialLine.Protocol protocol,
      @RequestParam int rate,
      @RequestParam(defaultValue = "other") @Size(max = 20) String end,
      @RequestParam(defaultValue = "true") boolean toMachine) {
    return new LineStepsView(
        LineSteps.ends().stream().map(e -> new Named(e.key(), e.name())).toList(),
        LineSteps.of(new SerialLine(protocol, rate, 10, 50, 0), end, toMachine));
  }

  /**
   * A file of noise over a line between two stand-ins.
   *
   * @param line how it went
   * @param time of the line, in words
   */
  record RehearsedLine(LineRehearsal line, String time) {}

  @GetMapping("/roads/rehearsal")
  RehearsedLine rehearsal(
      @RequestParam int kib,
      @RequestParam SerialLine.Protocol protocol,
      @RequestParam int rate,
      @RequestParam(defaultValue = "50") int turnaround,
      @RequestParam(defaultValue = "0") int errors,
      @RequestParam LineRehearsal.Trouble trouble) {
    if (kib < 1 || kib > LineRehearsal.MOST / 1024) {
      throw new ShedException("A rehearsal takes between 1 and 256 KiB.");
    }
    byte[] file = new byte[kib * 1024 - 100];
    new Random(kib).nextBytes(file);
    SerialLine line = new SerialLine(protocol, rate, 10, turnaround, errors);
    LineRehearsal r = LineRehearsal.of(file, line, trouble, rate + errors);
    return new RehearsedLine(r, Say.seconds(r.millis() / 1000));
  }

  @GetMapping("/size")
  SizeView size(@RequestParam long bytes) {
    if (bytes < 0) throw new ShedException("A size is not negative.");
    Sum sum =
        Sum.of("U-2", "Decimal and binary")
            .bytes("", "bytes", bytes)
            .line("÷", "1 000 000 makes", bytes / 1_000_000, Say.mb(bytes))
            .line("÷", "1 048 576 makes", bytes / Say.MIB, Say.mib(bytes))
            .because(
                "Labels count in powers of 1000, machines in powers of 1024. Nothing is missing: the same"
                    + " bytes are counted in larger units.")
            .done();
    return new SizeView(bytes, bytes / 512, Say.mb(bytes), Say.mib(bytes), sum);
  }
}
