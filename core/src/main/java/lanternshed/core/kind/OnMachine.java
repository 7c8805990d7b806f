package lanternshed.core.kind;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.machine.CarrierNames;
import lanternshed.core.machine.Profile;

/**
 * What a machine's menu, or its emulator, does with a file (T-5, T-11, P-32).
 *
 * @param starts how it takes it; empty where its profile does not say
 * @param how it is done, or why not; "" where it is not known
 */
public record OnMachine(Optional<Profile.Starts> starts, String how) {
  private static final OnMachine UNKNOWN = new OnMachine(Optional.empty(), "");

  /**
   * By its kind, and by its ending where the menu asks for one.
   *
   * @param name that the file has on the card
   */
  public static OnMachine of(Profile.Menu menu, Known known, String name) {
    int dot = name.lastIndexOf('.');
    String ending = dot > name.lastIndexOf('/') ? name.substring(dot + 1) : "";
    List<Profile.Loads> kind =
        menu.loads().stream().filter(l -> l.kind().equals(known.kind().name())).toList();
    Optional<Profile.Loads> fits =
        kind.stream().filter(l -> l.endings().isEmpty() || has(l.endings(), ending)).findFirst();
    if (fits.isPresent()) {
      return new OnMachine(Optional.of(fits.get().starts()), fits.get().how());
    }
    if (kind.isEmpty()) return UNKNOWN;
    String wanted =
        kind.stream().flatMap(l -> l.endings().stream()).collect(Collectors.joining(" or "));
    return new OnMachine(Optional.of(Profile.Starts.NOT), "the menu asks for " + wanted);
  }

  /** By its name and length, as an emulator does that finds drives among the files of a card. */
  public static OnMachine of(Profile.Carrier carrier, Known known, String path, long bytes) {
    Optional<String> astray = CarrierNames.astray(carrier, path, bytes);
    if (astray.isEmpty()) return new OnMachine(Optional.of(Profile.Starts.AT_ONCE), "");
    // What is no drive, and does not say by its name that it is one, lies there as well.
    boolean meant =
        known.kind() == Kind.DISK_IMAGE
            || mayBeDrive(carrier, known, bytes)
            || CarrierNames.id(carrier, path).isPresent();
    return meant ? new OnMachine(Optional.of(Profile.Starts.NOT), astray.get()) : UNKNOWN;
  }

  /** Whether it could be a drive: by its length, and as it is nothing else by its content. */
  public static boolean mayBeDrive(Profile.Carrier carrier, Known known, long bytes) {
    return (known.kind() == Kind.DISK_IMAGE || known.kind() == Kind.OTHER)
        && CarrierNames.odd(carrier, bytes).isEmpty();
  }

  private static boolean has(Collection<String> all, String one) {
    return all.stream().anyMatch(a -> a.equalsIgnoreCase(one));
  }

  /** Start-up files that are not among the paths of a card; letters' case does not count (T-8). */
  public static List<Profile.StartFile> missing(Profile.Menu menu, Collection<String> paths) {
    return menu.startFiles().stream().filter(f -> !has(paths, f.path())).toList();
  }
}
