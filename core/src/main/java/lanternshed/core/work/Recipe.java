package lanternshed.core.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * How an image is made, as open JSON (W-1): the same recipe and the same source give the same
 * bytes. See docs/formats.md.
 *
 * @param form "lantern shed recipe, form 2"
 * @param sectors of the image, of 512 bytes each
 * @param signature of the table, eight hexadecimal digits
 * @param sourceSha256 digest of the image that the content comes from; "" where all is from folders
 */
public record Recipe(
    String form,
    Strategy strategy,
    long sectors,
    Geometry geometry,
    String signature,
    BootCodeFrom bootCode,
    String sourceSha256,
    List<Part> volumes) {

  public static final String FORM = "lantern shed recipe, form 2";

  /** The form before: without long names, which it left out. */
  private static final String FORM_1 = "lantern shed recipe, form 1";

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          // What form 1 has not is false.
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
   * @param kind "FAT12", "FAT16" or "FAT32"
   * @param serial eight hexadecimal digits
   * @param systemFile the loader that the boot sector starts; "" where the volume does not start
   * @param longNames whether long names of the source come over (F-13)
   */
  public record Part(
      long start,
      long length,
      long tableSector,
      boolean logical,
      boolean active,
      int type,
      String kind,
      int clusterBytes,
      int rootEntries,
      String label,
      String serial,
      int from,
      String folder,
      String systemFile,
      boolean longNames) {
    public long end() {
      return start + length;
    }
  }

  public Recipe {
    volumes = List.copyOf(volumes);
  }

  /**
   * The recipe of a plan. Serials follow from the source's digest, so that they are the same again.
   */
  public static Recipe of(Plan plan, Survey survey, String sourceSha256) {
    if (!plan.buildable()) {
      throw new ShedException(
          "The plan cannot be built: "
              + plan.verdicts().stream()
                  .filter(v -> v.weight() == Plan.Weight.STOPS)
                  .map(Plan.Verdict::text)
                  .findFirst()
                  .orElse("it has no volume."));
    }
    String stem = (sourceSha256 + "0".repeat(64)).substring(0, 56);
    List<Part> parts = new ArrayList<>();
    for (Plan.PlannedVolume v : plan.volumes()) {
      Optional<Survey.Found> source =
          survey.volumes().stream().filter(f -> f.number() == v.source()).findFirst();
      int n = parts.size() + 1;
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
              v.source(),
              "",
              v.active() ? source.flatMap(Recipe::systemFile).orElse("") : "",
              true));
    }
    return new Recipe(
        FORM,
        plan.strategy(),
        plan.imageSectors(),
        plan.geometry(),
        stem.substring(0, 8),
        plan.keepBootCode() ? BootCodeFrom.SOURCE : BootCodeFrom.OWN,
        sourceSha256,
        parts);
  }

  private static int rootEntries(Optional<Survey.Found> source) {
    int taken = source.map(Survey.Found::rootEntries).orElse(0) + 1;
    return Math.max(512, (taken + 15) / 16 * 16);
  }

  private static Optional<String> systemFile(Survey.Found f) {
    return f.systemFiles().stream().findFirst();
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
      Recipe r = JSON.readValue(json, Recipe.class);
      if (!FORM.equals(r.form()) && !FORM_1.equals(r.form())) {
        throw new ShedException("This is no recipe of the form \"" + FORM + "\".");
      }
      return r;
    } catch (JacksonException e) {
      throw new ShedException("The recipe does not read: " + e.getOriginalMessage() + ".", e);
    }
  }
}
