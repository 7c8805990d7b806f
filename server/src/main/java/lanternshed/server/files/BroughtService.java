package lanternshed.server.files;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.names.NameList;
import lanternshed.core.survey.StartFiles;
import lanternshed.core.survey.Survey;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Recipe;
import lanternshed.server.jobs.JobService;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes in files from a desktop, keeps their folders, and says what they come to. */
@Service
public class BroughtService {
  /** The number under which the files stand in a plan, as a volume of an old drive would. */
  private static final int AS_VOLUME = 1;

  private static final int MOST_FILES = 50_000;

  /** Characters that no name of FAT or exFAT has. */
  private static final String NEVER = "\"*/:<>?\\|";

  private final BroughtRepository files;
  private final JobService jobs;
  private final DesktopFiles desktop;

  BroughtService(BroughtRepository files, JobService jobs, DesktopFiles desktop) {
    this.files = files;
    this.jobs = jobs;
    this.desktop = desktop;
  }

  List<BroughtEntity> of(long job) {
    return files.findByJobIdAndRemovedFalseOrderByPath(job);
  }

  /** The files of a job as a recipe names them. */
  public List<Recipe.FileFrom> forRecipe(long job) {
    return of(job).stream()
        .map(f -> new Recipe.FileFrom(f.path(), f.bytes(), f.sha256(), f.time()))
        .toList();
  }

  /** Which of these paths came, as {@link StartFiles#on} says it of an image. */
  public Map<String, Set<Integer>> lying(long job, Collection<String> paths) {
    Map<String, Set<Integer>> out = new HashMap<>();
    for (String p : paths) {
      boolean there =
          files.findByJobIdAndFolded(job, NameList.fold(p)).filter(f -> !f.removed()).isPresent();
      out.put(p, there ? Set.of(AS_VOLUME) : Set.of());
    }
    return out;
  }

  /**
   * Takes in one file as it streams. One of the same path that came before is replaced.
   *
   * @param time local date and time of its last change; "" for none
   * @param expected bytes that the sender announced; −1 where none were
   */
  BroughtEntity take(long job, String path, String time, InputStream in, long expected)
      throws IOException {
    jobs.filesMayChange(job);
    String plain = plain(path);
    DesktopFiles.checkTime(plain, time);
    needsOwnName(job, plain);
    if (files.countByJobIdAndRemovedFalse(job) >= MOST_FILES) {
      throw new ShedException(
          "A job takes " + Say.count(MOST_FILES) + " files; pack some, or open a second job.");
    }
    DesktopFiles.Kept kept = desktop.keep(plain, in, expected);
    return note(job, plain, kept, time);
  }

  /** What would not stand beside the others on any volume is refused before a byte comes. */
  private void needsOwnName(long job, String path) {
    String folded = NameList.fold(path);
    files
        .findByJobIdAndFolded(job, folded)
        .filter(f -> !f.removed() && !f.path().equals(path))
        .ifPresent(
            f -> {
              throw new ShedException(
                  path
                      + " and "
                      + f.path()
                      + " are one name on a volume; give one of them another.");
            });
    List<String> folders = new ArrayList<>();
    for (int i = folded.indexOf('/'); i > 0; i = folded.indexOf('/', i + 1)) {
      folders.add(folded.substring(0, i));
    }
    boolean inFile =
        !folders.isEmpty()
            && files.findFirstByJobIdAndRemovedFalseAndFoldedIn(job, folders).isPresent();
    if (inFile || files.inFolder(job, folded) > 0) {
      throw new ShedException(
          path + ": a file and a folder would have one name there; give one of them another.");
    }
  }

  private BroughtEntity note(long job, String path, DesktopFiles.Kept kept, String time) {
    BroughtEntity f =
        files
            .findByJobIdAndFolded(job, NameList.fold(path))
            .orElseGet(() -> new BroughtEntity(job, path));
    f.spell(path);
    f.holds(kept, time);
    files.save(f);
    jobs.filesChanged(job);
    return f;
  }

  /**
   * Takes a file or a folder out of the job, or puts it back; the bytes stay.
   *
   * @return how many files it was
   */
  @Transactional
  int remove(long job, String path, boolean removed) {
    jobs.filesMayChange(job);
    List<BroughtEntity> all = files.under(job, plain(path));
    all.forEach(f -> f.setRemoved(removed));
    jobs.filesChanged(job);
    return all.size();
  }

  /** A path that names a place among the files and never one on this computer. */
  public static String plain(String path) {
    return DesktopFiles.plain(path, NEVER, true);
  }

  /**
   * The files as the planner sees the content of an old volume; of no sectors, as there is none.
   */
  public Survey survey(long job) {
    List<BroughtEntity> all = of(job);
    if (all.isEmpty()) return new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
    Set<String> folders = new HashSet<>();
    int inRoot = 0;
    for (BroughtEntity f : all) {
      String p = f.path();
      if (p.indexOf('/') < 0) inRoot++;
      for (int i = p.indexOf('/'); i > 0; i = p.indexOf('/', i + 1)) {
        if (folders.add(p.substring(0, i)) && p.lastIndexOf('/', i - 1) < 0) inRoot++;
      }
    }
    long[] sizes = all.stream().mapToLong(BroughtEntity::bytes).toArray();
    Survey.Found found =
        new Survey.Found(
            AS_VOLUME,
            0,
            0,
            "files",
            "FILES",
            true,
            false,
            new Volume.Use(0, 0, 0, 0),
            sizes.length,
            folders.size(),
            0,
            all.stream().mapToLong(BroughtEntity::bytes).sum(),
            sizes,
            entries(all, inRoot),
            List.of(),
            false,
            List.of(),
            List.of());
    return new Survey(0, Optional.empty(), List.of(found), List.of(), longNames(all));
  }

  /** Entries of the root, with those that long names take. */
  private static int entries(List<BroughtEntity> all, int inRoot) {
    int more = 0;
    for (BroughtEntity f : all) {
      String first = f.path().split("/", 2)[0];
      if (!isShort(first)) more += (first.length() + 12) / 13;
    }
    return inRoot + more;
  }

  private static boolean isShort(String name) {
    return name.toUpperCase(Locale.ROOT)
        .matches("[A-Z0-9_$%'@~!(){}^#&-]{1,8}(\\.[A-Z0-9_$%'@~!(){}^#&-]{1,3})?");
  }

  /** F-7: what a system of 8.3 names will show otherwise. */
  private static List<Finding> longNames(List<BroughtEntity> all) {
    List<String> names = new ArrayList<>();
    for (BroughtEntity f : all) {
      String name = f.path().substring(f.path().lastIndexOf('/') + 1);
      if (!isShort(name)) names.add(name);
    }
    if (names.isEmpty()) return List.of();
    return List.of(
        Finding.note(
            "F-7",
            names.get(0),
            Say.plural(names.size(), "name is", "names are")
                + " longer than 8.3, first "
                + names.get(0)
                + ": systems without long names show them shortened, with a number."));
  }
}
