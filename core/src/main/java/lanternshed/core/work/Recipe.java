package lanternshed.core.work;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Generation;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * How an image is made, as open JSON (W-1): the same recipe and the same source give the same
 * bytes. Family, table and filesystems are named by their keys. See docs/formats.md.
 *
 * @param form "lantern shed recipe, form 3"
 * @param family key of the kind of machine, "pc"
 * @param table name of the scheme, "MBR"
 * @param sectors of the image, of 512 bytes each
 * @param signature of the table, eight hexadecimal digits
 * @param sourceSha256 digest of the image that the content comes from; "" where none is needed
 * @param drivers files that go into the table's own blocks (P-13)
 */
public record Recipe(
    String form,
    String family,
    String table,
    Strategy strategy,
    long sectors,
    Geometry geometry,
    String signature,
    BootCodeFrom bootCode,
    String sourceSha256,
    @JsonInclude(JsonInclude.Include.NON_EMPTY) List<DriverFrom> drivers,
    List<Part> volumes) {

  public static final String FORM = "lantern shed recipe, form 3";

  /** Without long names, which it left out; types as numbers. */
  private static final String FORM_1 = "lantern shed recipe, form 1";

  /** For PCs only, their table's types as numbers. */
  private static final String FORM_2 = "lantern shed recipe, form 2";

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          // What a form before has not is false, but for long names: see renewed.
          .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .build();

  /** Where boot code comes from. */
  public enum BootCodeFrom {
    OWN,
    SOURCE
  }

  /**
   * One volume.
   *
   * @param from number of the source's volume whose content goes in; −1 for none
   * @param folder a folder whose files go in, for the command line; "" for none
   * @param files files that go in, each by its digest; folders follow from their paths
   * @param type the table's own code of the volume, "06"
   * @param kind published name of the filesystem, "FAT16"
   * @param serial eight hexadecimal digits
   * @param systemFile the loader that the boot sector starts; "" where the volume does not start
   * @param contract how it hands over, as the system's generation names it (B-9); "" for DOS to 6
   * @param longNames whether long names of the source come over (F-13)
   * @param sectorBytes bytes of a logical sector; 0 for 512
   */
  public record Part(
      long start,
      long length,
      long tableSector,
      boolean logical,
      boolean active,
      String type,
      String kind,
      int clusterBytes,
      int rootEntries,
      String label,
      String serial,
      int from,
      String folder,
      List<FileFrom> files,
      String systemFile,
      String contract,
      boolean longNames,
      int sectorBytes) {
    public Part {
      files = files == null ? List.of() : List.copyOf(files);
      contract = contract == null ? "" : contract;
    }

    public long end() {
      return start + length;
    }
  }

  /**
   * One driver by its file's digest.
   *
   * @param type the table's own code of the volumes that it serves, "DOS\\1"
   * @param name under which it was brought
   */
  public record DriverFrom(String type, String name, long bytes, String sha256) {}

  /**
   * One file by its digest: brought in from a desktop, or an image that a carrier holds.
   *
   * @param path names joined by "/"
   * @param time local date and time, "1994-03-01T10:20:00"; "" for none
   * @param text the content itself where it is a short text that the plan wrote; "" for none
   */
  public record FileFrom(String path, long bytes, String sha256, String time, String text) {
    public FileFrom {
      text = text == null ? "" : text;
    }

    public FileFrom(String path, long bytes, String sha256, String time) {
      this(path, bytes, sha256, time, "");
    }

    /** Packed date and time. */
    int stamp() {
      return time.isEmpty() ? Stamp.NONE : Stamp.of(local());
    }

    private LocalDateTime local() {
      try {
        return LocalDateTime.parse(time);
      } catch (DateTimeParseException e) {
        throw new ShedException(
            "The time of " + path + " is \"" + time + "\"; it reads like 1994-03-01T10:20:00.", e);
      }
    }
  }

  public Recipe {
    drivers = drivers == null ? List.of() : List.copyOf(drivers);
    volumes = List.copyOf(volumes);
  }

  /**
   * The recipe of a plan. Serials follow from the source's digest, so that they are the same again.
   *
   * @param survey of the source
   * @param sourceSha256 digest of the source image; "" where there is none
   * @param brought files that stand for a volume of a source image
   */
  public static Recipe of(Plan plan, Survey survey, String sourceSha256, List<FileFrom> brought) {
    if (!plan.buildable()) {
      throw new ShedException(
          "The plan cannot be built: " + plan.stop().orElse("it has no volume."));
    }
    Family family = Families.named(plan.family());
    Generation system = Generation.of(plan.system()).orElseThrow();
    String stem = (sourceSha256 + "0".repeat(64)).substring(0, 56);
    List<Part> parts = new ArrayList<>();
    for (Plan.PlannedVolume v : plan.volumes()) {
      // What the machine's own tool makes is room that is kept, and nothing that is built.
      if (!Catalogue.made(v.kind())) continue;
      Optional<Survey.Found> source =
          survey.volumes().stream().filter(f -> f.number() == v.source()).findFirst();
      int n = parts.size() + 1;
      boolean fromFiles = !brought.isEmpty() && v.source() >= 0;
      List<FileFrom> files = fromFiles ? onDisk(brought, family) : carried(v);
      parts.add(
          new Part(
              v.start(),
              v.length(),
              v.tableSector(),
              v.logical(),
              v.active(),
              v.type(),
              v.kind(),
              v.clusterBytes(),
              rootEntries(source),
              v.label(),
              stem.substring(n * 8 % 48, n * 8 % 48 + 8),
              fromFiles ? -1 : v.source(),
              "",
              files,
              v.loader(),
              v.loader().isEmpty() ? "" : system.contract(),
              family.longNames(),
              v.sectorBytes() == 512 ? 0 : v.sectorBytes()));
    }
    return new Recipe(
        FORM,
        family.key(),
        family.table(system).name(),
        plan.strategy(),
        plan.imageSectors(),
        plan.geometry(),
        stem.substring(0, 8),
        plan.keepBootCode() ? BootCodeFrom.SOURCE : BootCodeFrom.OWN,
        sourceSha256,
        plan.mounts().stream()
            .flatMap(m -> m.driver().stream())
            .map(d -> new DriverFrom(d.type(), d.name(), d.bytes(), d.sha256()))
            .toList(),
        parts);
  }

  private static List<FileFrom> onDisk(List<FileFrom> brought, Family family) {
    return brought.stream()
        .map(f -> new FileFrom(family.onDisk(f.path()), f.bytes(), f.sha256(), f.time()))
        .toList();
  }

  private static List<FileFrom> carried(Plan.PlannedVolume v) {
    return v.files().stream()
        .map(f -> new FileFrom(f.name(), f.bytes(), f.sha256(), "", f.text()))
        .toList();
  }

  private static int rootEntries(Optional<Survey.Found> source) {
    int taken = source.map(Survey.Found::rootEntries).orElse(0) + 1;
    return Math.max(512, (taken + 15) / 16 * 16);
  }

  public String toJson() {
    return JSON.writeValueAsString(this) + "\n";
  }

  /**
   * Reads a recipe.
   *
   * @throws ShedException with the place that makes no sense
   */
  public static Recipe parse(String json) {
    try {
      JsonNode tree = JSON.readTree(json);
      String form = tree.path("form").asString("");
      boolean old = form.equals(FORM_1) || form.equals(FORM_2);
      if (!old && !form.equals(FORM)) {
        throw new ShedException("This is no recipe of the form \"" + FORM + "\".");
      }
      JsonNode now = old ? renewed((ObjectNode) tree) : tree;
      RecipeCheck.complete(now);
      return JSON.treeToValue(now, Recipe.class);
    } catch (JacksonException e) {
      throw new ShedException("The recipe does not read: " + e.getOriginalMessage() + ".", e);
    }
  }

  /** What the forms before could say, said by keys. */
  private static ObjectNode renewed(ObjectNode r) {
    r.put("form", FORM).put("family", "pc").put("table", "MBR");
    for (JsonNode v : r.path("volumes")) {
      if (!v.isObject()) continue;
      // What nobody decided stays: these forms had no word for long names, which is none against
      // them.
      if (!v.has("longNames")) ((ObjectNode) v).put("longNames", true);
      ((ObjectNode) v).put("type", String.format("%02X", v.path("type").asInt(0)));
    }
    return r;
  }
}
