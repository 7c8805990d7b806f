package lanternshed.core.chain;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import lanternshed.core.chain.Joint.Side;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** H-1 to H-16: chains against a search that tries everything, and of the machines that ship. */
class ChainFinderTest {
  private static final List<String> KEYS = List.of("ata40", "ata44", "zif50", "cf50", "sd", "msd");

  static List<Profile> machines() {
    return Profiles.all();
  }

  @ParameterizedTest
  @MethodSource("machines")
  void everyMachineThatShipsHasAChainToACardAndEveryFigureItsReason(Profile p) {
    ChainFinder.Found f =
        new ChainFinder(HostSide.of(p), Drawer.empty(), 1, Optional.empty()).find();
    assertThat(f.chains()).as(p.key() + ": " + f.missing()).isNotEmpty();
    for (Chain c : f.chains()) {
      assertThat(c.toBuy()).hasSize(c.links().size());
      assertThat(c.links()).allSatisfy(l -> assertThat(l.jointBecause().reason()).isNotEmpty());
      assertThat(c.tells()).allSatisfy(t -> assertThat(t.because().reason()).isNotEmpty());
      assertThat(c.reach()).isPositive();
    }
    List<Long> prices = f.chains().stream().map(Chain::price).toList();
    assertThat(prices).isSorted();
  }

  private static ChainFinder.Found of(String machine, String card) {
    HostSide host = HostSide.of(Profiles.get(machine));
    return new ChainFinder(host, Drawer.empty(), 1, Optional.of(card)).find();
  }

  @ParameterizedTest
  @CsvSource({
    "controller-pc, cf50, a40-cf", "controller-pc, sd, a40-sd", "laptop-2000s, cf50, a44-cf",
    "scsi-sampler, sd, scsi-sd", "m68k-ahdi, sd, dma-sd", "xt, cf50, isa8-cf",
    "player-18, msd, zif-msd", "z80-cpm-card, cf50, pccard-guide cf-pccard",
  })
  void theUsualWayIsAmongThem(String machine, String card, String part) {
    assertThat(of(machine, card).chains()).anyMatch(c -> c.key().contains(part));
  }

  @Test
  void aTypeTwoCardDoesNotGoInATypeOneSlotWithoutItsGuide() {
    assertThat(of("z80-cpm-card", "cf50").chains())
        .isNotEmpty()
        .allMatch(c -> c.key().contains("pccard-guide"));
    assertThat(of("subnotebook", "cf50").chains()).anyMatch(c -> c.key().startsWith("cf-pccard"));
  }

  @Test
  void whatIsMissingIsNamedByItsPlug() {
    HostSide host = HostSide.of(Profiles.get("controller-pc"));
    List<Drawer.Item> some =
        Drawer.empty().items().stream()
            .filter(i -> List.of("ribbon-40", "cf-1").contains(i.piece().key()))
            .toList();
    ChainFinder.Found f = new ChainFinder(host, new Drawer(some), 1, Optional.of("cf50")).find();
    assertThat(f.chains()).isEmpty();
    assertThat(f.missing())
        .contains("40-pin 0.1-inch ATA (pins, 5.0 V)", "(holes", "compact flash");
  }

  @Test
  void whatLiesInTheDrawerIsPaidForAndAKitPaysForTen() {
    HostSide host = HostSide.of(Profiles.get("controller-pc"));
    List<Drawer.Item> items =
        Drawer.empty().items().stream()
            .map(i -> i.piece().key().equals("a40-cf") ? new Drawer.Item(i.piece(), 1, "box 4") : i)
            .toList();
    Chain one =
        new ChainFinder(host, new Drawer(items), 1, Optional.of("cf50")).find().chains().get(0);
    assertThat(one.key()).isEqualTo("ribbon-40 a40-cf cf-1");
    assertThat(one.price()).isEqualTo(250 + 1500);
    assertThat(one.toBuy()).doesNotContain("adapter 40 to compact flash, bay plate");
    assertThat(new ChainFinder(host, Drawer.empty(), 20, Optional.of("cf50")).find().chains())
        .anyMatch(c -> c.key().contains("kit-40-cf") && c.price() < 250 + 1420 + 1500);
    Chain ten =
        new ChainFinder(host, Drawer.empty(), 10, Optional.of("cf50"))
            .find().chains().stream()
                .filter(c -> c.key().contains("kit-40-cf"))
                .findFirst()
                .orElseThrow();
    assertThat(ten.priceBecause().result()).isEqualTo(ten.price());
    // Lots of ten: (22.00 + 9.00 + 40.00) ÷ 7 + 3.80 = 13.95, and at six 15.64 against 14.20.
    assertThat(ten.priceBecause().reason()).contains("for 14.20 it pays from 7 on");
    Piece.Price kit = new Piece.Price(0, 2200, 900, 10, 380, 4000);
    // (22.00 + 9.00 + 40.00) ÷ 1 + 3.80; (2 × 22.00 + 9.00 + 40.00) ÷ 20 + 3.80
    assertThat(kit.each(1)).isEqualTo(7480);
    assertThat(kit.each(20)).isEqualTo(845);
  }

  @Test
  void aChainIsFoundAgainByItsPartsAsLongAsItFits() {
    HostSide host = HostSide.of(Profiles.get("controller-pc"));
    ChainFinder f = new ChainFinder(host, Drawer.empty(), 1, Optional.empty());
    for (Chain c : f.find().chains()) {
      assertThat(f.along(List.of(c.key().split(" "))).map(Chain::key)).hasValue(c.key());
    }
    assertThat(f.find().chains())
        .extracting(Chain::name)
        .anyMatch(n -> n.startsWith("kit board"))
        .anyMatch(n -> n.startsWith("bridge 40"));
    assertThat(f.along(List.of("ribbon-40", "cf-1"))).isEmpty();
    assertThat(f.along(List.of("ribbon-40"))).isEmpty();
  }

  // ---- against a search that tries everything
  // ----------------------------------------------------

  private static Piece random(SplittableRandom r, int i, boolean card) {
    Piece.End host = new Piece.End(KEYS.get(r.nextInt(KEYS.size())), Side.values()[r.nextInt(2)]);
    Piece.End to = new Piece.End(KEYS.get(r.nextInt(KEYS.size())), Side.values()[r.nextInt(2)]);
    return new Piece(
        "p" + i,
        "part " + i,
        host,
        card ? null : to,
        r.nextInt(3) == 0 ? List.of(3300) : List.of(3300, 5000),
        r.nextInt(4) == 0 ? 3300 : 0,
        r.nextInt(300),
        r.nextInt(20) == 0 ? 350 : 0,
        r.nextInt(4) == 0 ? List.of("power4") : r.nextInt(9) == 0 ? List.of("power4s") : List.of(),
        r.nextInt(5) == 0 ? 1 : 0,
        r.nextInt(60),
        r.nextInt(3) == 0 ? 100 + r.nextInt(9000) : 0,
        false,
        false,
        false,
        false,
        0,
        new Piece.Price(r.nextInt(4000), 0, 0, 0, 0, 0),
        List.of(),
        List.of());
  }

  /** The best of everything that was tried. */
  private static final class Best {
    long price = Long.MAX_VALUE;
    int minutes = Integer.MAX_VALUE;
    long reach;
    int many;
  }

  /** Without any cleverness: each part after each, no plug of one voltage twice in one room. */
  private static void all(
      HostSide h,
      HostSide.Way w,
      List<Piece> parts,
      List<Piece> so,
      Set<String> seen,
      Piece.End open,
      int mv,
      Best best) {
    if (open == null) {
      best.many++;
      best.price = Math.min(best.price, so.stream().mapToLong(p -> p.price().piece()).sum());
      best.minutes = Math.min(best.minutes, so.stream().mapToInt(Piece::minutes).sum());
      long reach = w.joint().reach();
      for (Piece p : so) {
        if (p.reach() > 0) reach = Math.min(reach, p.reach());
        if (p.card() != null) reach = Math.min(reach, Joint.get(p.card().joint()).reach());
      }
      best.reach = Math.max(best.reach, reach);
      return;
    }
    int bay = Math.max(w.bay(), so.stream().mapToInt(Piece::opens).max().orElse(0));
    for (Piece p : parts) {
      if (!p.host().joint().equals(open.joint()) || p.host().side() == open.side()) continue;
      if (!p.accepts().contains(mv) || p.height() > Math.max(bay, p.opens())) continue;
      if (!p.needs().isEmpty() && h.power().stream().noneMatch(j -> p.needs().contains(j.key())))
        continue;
      List<Piece> longer = new ArrayList<>(so);
      longer.add(p);
      Set<String> met = new HashSet<>(seen);
      int next = p.gives() > 0 ? p.gives() : mv;
      if (p.card() != null && !met.add(p.card() + " " + next + " " + Math.max(bay, p.opens())))
        continue;
      all(h, w, parts, longer, met, p.card(), next, best);
    }
  }

  @Test
  void aThousandDrawersGiveWhatTryingEverythingGives() {
    SplittableRandom r = new SplittableRandom(5);
    int found = 0;
    for (int n = 0; n < 1000; n++) {
      List<Piece> parts = new ArrayList<>();
      int many = 6 + r.nextInt(14);
      for (int i = 0; i < many; i++) parts.add(random(r, i, i % 4 == 0));
      HostSide h =
          new HostSide(
              "a machine",
              List.of(new HostSide.Way(Joint.get("ata40"), 254, "bay")),
              List.of(Joint.get("power4")));
      Best best = new Best();
      Piece.End board = new Piece.End("ata40", Side.M);
      all(h, h.ways().get(0), parts, List.of(), Set.of(board + " 5000 254"), board, 5000, best);
      Drawer d = new Drawer(parts.stream().map(p -> new Drawer.Item(p, 0, "")).toList());
      List<Chain> chains = new ChainFinder(h, d, 1, Optional.empty()).find().chains();
      assertThat(chains.isEmpty()).as("drawer %d", n).isEqualTo(best.many == 0);
      if (best.many == 0) continue;
      found++;
      assertThat(chains.get(0).price()).isEqualTo(best.price);
      assertThat(chains.stream().mapToInt(Chain::minutes).min()).hasValue(best.minutes);
      assertThat(chains.stream().mapToLong(Chain::reach).max()).hasValue(best.reach);
    }
    assertThat(found).isGreaterThan(200);
  }

  @Test
  void aPartThatSomebodyWroteIsTakenOrRefusedInOneSentence() {
    assertThat(Piece.shipped()).allMatch(p -> p.fault().isEmpty());
    assertThat(Piece.shipped()).allMatch(p -> Piece.read(p.text()).equals(p));
    SplittableRandom r = new SplittableRandom(1);
    Piece p = random(r, 1, false);
    assertThat(p.fault()).isEmpty();
    Piece.End none = new Piece.End("nothing", Side.M);
    Piece bad =
        new Piece(
            "k",
            "a plug",
            none,
            null,
            List.of(5000),
            0,
            0,
            0,
            null,
            0,
            0,
            0,
            false,
            false,
            false,
            false,
            0,
            null,
            null,
            null);
    for (String wrong :
        List.of(
            "\"needs\":[\"nothing\"]",
            "\"height\":-1",
            "\"minutes\":2000000000",
            "\"price\":{\"lot\":9000000000000000000,\"number\":1}",
            "\"settings\":[{\"rule\":\"H-6\"}]",
            "\"accepts\":[]")) {
      String text =
          "{\"key\":\"k\",\"name\":\"k\",\"host\":{\"joint\":\"sd\",\"side\":\"M\"},"
              + (wrong.contains("accepts") ? "" : "\"accepts\":[5000],")
              + wrong
              + "}";
      assertThatThrownBy(() -> Piece.read(text))
          .isInstanceOf(ShedException.class)
          .hasMessageContaining("is not taken");
    }
    for (String no : List.of("0", "[1]", "{", "\"x\"", "{\"host\":{\"side\":7}}", "null")) {
      assertThatThrownBy(() -> Piece.read(no))
          .isInstanceOf(ShedException.class)
          .hasMessageStartingWith("This is no part")
          .hasMessageNotContaining("lanternshed");
    }
    assertThat(bad.fault()).hasValueSatisfying(s -> assertThat(s).contains("no joint \"nothing\""));
  }

  /** H-1: what a card of the plan is made for, against what the chain ends with. */
  @Test
  void theLastJointIsHeldAgainstTheCardOfThePlan() {
    Joint flash = Joint.get("cf50");
    Chain.Told fits = Chain.lastJoint(flash, "mill-1", flash);
    assertThat(fits.verdict()).isEqualTo(Chain.Verdict.FITS);
    Chain.Told other = Chain.lastJoint(Joint.get("sd"), "mill-1", flash);
    assertThat(other.verdict()).isEqualTo(Chain.Verdict.CARE);
    assertThat(other.text())
        .startsWith("it ends with secure digital, and mill-1 is made for compact flash");
    assertThat(Joint.known("round")).isEmpty();
    assertThat(Joint.known("")).isEmpty();
  }
}
