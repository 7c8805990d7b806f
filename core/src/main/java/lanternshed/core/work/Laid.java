package lanternshed.core.work;

import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/** The volumes of an image where its recipe laid them down. */
public final class Laid {
  private Laid() {}

  /** The volume of a part of the recipe; empty where none of its kind is there. */
  public static Optional<Volume> volume(Recipe recipe, Recipe.Part p, Medium image) {
    Medium slice = new SliceMedium(image, p.start(), p.length());
    return Opener.recognise(slice, hint(recipe, p))
        .flatMap(Recognised::volume)
        .filter(v -> v.kind().equals(p.kind()));
  }

  /** Where it stands, and how it was laid out: some kinds write no mark of their own. */
  private static Hint hint(Recipe recipe, Recipe.Part p) {
    boolean alone = Catalogue.table(recipe.table()).alone();
    Optional<Maker.Layout> layout =
        alone
            ? Optional.of(Catalogue.maker(p.kind()).layout(ImageBuilder.wish(recipe, p)))
            : Optional.empty();
    return new Hint(alone, recipe.table(), 0, true, layout);
  }
}
