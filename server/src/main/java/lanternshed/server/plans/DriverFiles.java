package lanternshed.server.plans;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import lanternshed.core.family.Families;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.table.TableDrivers;
import lanternshed.core.table.TableMaker;
import lanternshed.core.work.Stock;
import lanternshed.server.files.DesktopFiles;
import org.springframework.stereotype.Component;

/** Files of drivers that go into a table (P-13): taken in once they were looked at. */
@Component
class DriverFiles {
  private static final int MOST_NAME = 83;
  private final Stock stock;
  private final DesktopFiles desktop;

  DriverFiles(Stock stock, DesktopFiles desktop) {
    this.stock = stock;
    this.desktop = desktop;
  }

  /**
   * A file that the machine would load.
   *
   * @param version as it says it; "" where it says none
   */
  record DriverView(String name, String version, long bytes, String sha256) {}

  /**
   * Takes a file in.
   *
   * @param named as it is called at the desktop
   * @throws ShedException why the machine would not load it
   */
  DriverView take(Profile profile, String named, InputStream in) throws IOException {
    TableDrivers drivers =
        table(profile)
            .orElseThrow(
                () -> new ShedException("The table of this machine has no blocks for drivers."));
    String name = plain(named);
    byte[] file = in.readNBytes(TableDrivers.MOST_BYTES + 1);
    String version = drivers.version(name, file);
    DesktopFiles.Kept kept = desktop.keep(name, out -> out.write(file), file.length);
    return new DriverView(name, version, kept.bytes(), kept.sha256());
  }

  /** The last part of a path, as the table's head keeps it. */
  private static String plain(String named) {
    String name = named.replaceAll(".*[/\\\\:]", "").replaceAll("[^ -~\u00A0-\u00FF]", "?").strip();
    if (name.isEmpty()) throw new ShedException("The driver's file has no name; give it one.");
    return name.length() > MOST_NAME ? name.substring(0, MOST_NAME) : name;
  }

  private static Optional<TableDrivers> table(Profile profile) {
    return Families.of(profile)
        .table(Setup.of(profile, "", "").system())
        .maker()
        .flatMap(TableMaker::drivers);
  }

  /**
   * What is chosen as the planner takes it; what does not lie on the shelf any more is not there.
   */
  List<PlanRequest.Driver> of(Profile profile, List<PlanChoice.BroughtDriver> chosen) {
    if (chosen.isEmpty()) return List.of();
    TableDrivers drivers = table(profile).orElse(null);
    if (drivers == null) return List.of();
    return chosen.stream().flatMap(d -> driver(drivers, d).stream()).toList();
  }

  private Optional<PlanRequest.Driver> driver(TableDrivers drivers, PlanChoice.BroughtDriver d) {
    return stock
        .find(d.sha256())
        .map(
            c -> {
              byte[] file = c.head(TableDrivers.MOST_BYTES + 1);
              String version = drivers.version(d.name(), file);
              return new PlanRequest.Driver(d.type(), d.name(), version, file.length, d.sha256());
            });
  }
}
