package lanternshed.core.chain;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.JacksonException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A part of a chain: cable, adapter, bridge, board or card.
 *
 * @param host the end towards the machine
 * @param card the end towards the card; null for a card itself
 * @param accepts millivolts of signals at its host end that it works with
 * @param gives millivolts at its card end; 0 where it passes on what comes
 * @param height tenths of a millimetre that it takes in a bay with its card; 0 where it lies beside
 * @param opens tenths of a millimetre that the slot takes once it is built in; 0 for no change
 * @param needs joints of power of which it wants one; empty where the host end feeds it
 * @param slots of the machine that it takes
 * @param reach kB/s at most; 0 where it adds no bound
 * @param pio whether its DMA lines are not wired, or must be taken as such (H-8)
 * @param bridge whether a chip translates between two kinds of card or drive (H-12)
 * @param fixed whether it answers as a fixed disk
 * @param most sectors of a card that it reaches; 0 for no bound of its own
 */
@JsonIgnoreProperties(ignoreUnknown = true)
@JsonInclude(JsonInclude.Include.NON_DEFAULT)
public record Piece(
    String key,
    String name,
    End host,
    End card,
    List<Integer> accepts,
    int gives,
    int height,
    int opens,
    List<String> needs,
    int slots,
    int minutes,
    long reach,
    boolean pio,
    boolean bridge,
    boolean fixed,
    boolean solder,
    long most,
    Price price,
    List<Setting> settings,
    List<Said> says) {

  /** One end. */
  public record End(String joint, Joint.Side side) {
    String words() {
      return Joint.get(joint).name() + ", " + side.words();
    }
  }

  /** What is set on it by hand before power. */
  public record Setting(String rule, String name, String value, String text) {}

  /**
   * What is worth knowing of it.
   *
   * @param care whether it is a caution, and no mere note
   */
  public record Said(String rule, boolean care, String text) {}

  /**
   * What it costs, in hundredths of whatever is paid with (O-14).
   *
   * @param piece of one that is bought ready
   * @param lot of a lot of boards; 0 where it is not made in lots
   * @param postage of a lot
   * @param number of boards in a lot
   * @param parts for each
   * @param tools once, for all of them
   */
  @JsonInclude(JsonInclude.Include.NON_DEFAULT)
  public record Price(long piece, long lot, long postage, int number, long parts, long tools) {

    /** Lots that so many pieces take. */
    long lots(int pieces) {
      return (pieces + number - 1) / Math.max(1, number);
    }

    /** Each, where so many are made: (lots + postage) ÷ number + parts + tools ÷ pieces. */
    public long each(int pieces) {
      if (lot == 0) return piece + parts;
      long once = lots(pieces) * lot + postage + tools;
      return piece + parts + (once + pieces - 1) / pieces;
    }
  }

  public Piece {
    accepts = accepts == null ? List.of() : List.copyOf(accepts);
    needs = needs == null ? List.of() : List.copyOf(needs);
    settings = settings == null ? List.of() : List.copyOf(settings);
    says = says == null ? List.of() : List.copyOf(says);
    price = price == null ? new Price(0, 0, 0, 0, 0, 0) : price;
  }

  /** Whether the chain ends with it. */
  public boolean endsChain() {
    return card == null;
  }

  /** Whether it leads on to the same plug. */
  boolean isCable() {
    return host.equals(card);
  }

  /** Tenths of a millimetre, minutes, slots or millivolts that no part has. */
  private static final long MOST_OF_IT = 100_000;

  private static final long MOST_MONEY = 1_000_000_000;
  private static final long MOST_SECTORS = 1L << 48;

  /** A number that does not stand there is none. */
  private static final JsonMapper JSON =
      JsonMapper.builder().disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES).build();

  private static final List<Piece> SHIPPED = load();

  private static List<Piece> load() {
    try (InputStream in = Piece.class.getResourceAsStream("/chain/pieces.json")) {
      return JSON.readValue(in, new TypeReference<List<Piece>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The parts ship with the program", e);
    }
  }

  /**
   * The JSON Schema of a part (2020-12), with the joints there are: {@code oneOf} names each by its
   * key and its words.
   */
  public static String schema() {
    try (InputStream in = Piece.class.getResourceAsStream("/chain/schema.json")) {
      JsonNode form = JSON.readTree(in);
      List<Joint> power = Joint.all().stream().filter(j -> j.power() && j.reach() == 0).toList();
      List<Joint> data = Joint.all().stream().filter(j -> j.reach() > 0).toList();
      choose(form.at("/properties/host/properties/joint"), data);
      choose(form.at("/properties/card/properties/joint"), data);
      choose(form.at("/properties/needs/items"), power);
      return JSON.writeValueAsString(form);
    } catch (IOException e) {
      throw new IllegalStateException("The schema of parts ships with the program", e);
    }
  }

  private static void choose(JsonNode field, List<Joint> joints) {
    ArrayNode choices = ((ObjectNode) field).putArray("oneOf");
    joints.forEach(j -> choices.addObject().put("const", j.key()).put("title", j.name()));
  }

  /** Generic kinds, as everybody can buy them. */
  public static List<Piece> shipped() {
    return SHIPPED;
  }

  public String text() {
    return JSON.writeValueAsString(this);
  }

  /**
   * @throws ShedException where the text is no part, or one that cannot be
   */
  public static Piece read(String text) {
    Piece p;
    try {
      p = JSON.readValue(text, Piece.class);
    } catch (JacksonException e) {
      String at =
          e.getPath().stream()
              .map(r -> r.getPropertyName() == null ? "" + r.getIndex() : r.getPropertyName())
              .collect(Collectors.joining("/"));
      throw new ShedException(
          "This is no part: "
              + (at.isEmpty()
                  ? "it is no JSON object of one"
                  : "what stands at " + at + " cannot be")
              + ". Take one of the drawer as a pattern.");
    }
    Optional<String> fault = p == null ? Optional.of("This is no part.") : p.fault();
    if (fault.isPresent()) throw new ShedException(fault.get());
    return p;
  }

  private static boolean texts(String... all) {
    return Arrays.stream(all).allMatch(t -> t != null && t.length() <= 500);
  }

  /** What is wrong with a part that somebody wrote; empty for nothing. */
  public Optional<String> fault() {
    List<String> out = new ArrayList<>();
    if (key == null || !key.matches("[a-z0-9-]{1,40}")) {
      out.add("its key has small letters, figures and dashes, 40 at most");
    }
    if (name == null || name.isBlank() || name.length() > 120) out.add("it has no name");
    if (host == null) out.add("it has no end towards the machine");
    for (End e : new End[] {host, card}) {
      if (e == null) continue;
      boolean known = Joint.all().stream().anyMatch(j -> j.key().equals(e.joint()));
      if (!known) out.add("there is no joint \"" + e.joint() + "\"");
      if (e.side() == null) out.add("one end has neither pins nor holes");
    }
    if (accepts.isEmpty()) out.add("it says no voltage that it works with");
    for (String n : needs) {
      boolean known = Joint.all().stream().anyMatch(j -> j.key().equals(n));
      if (!known) out.add("there is no joint \"" + n + "\" for its power");
    }
    for (long n : new long[] {height, opens, slots, minutes, gives}) {
      if (n < 0 || n > MOST_OF_IT) out.add("a measure of it is below zero or beyond reason");
    }
    for (long n :
        new long[] {
          reach, price.piece, price.lot, price.postage, price.number, price.parts, price.tools
        }) {
      if (n < 0 || n > MOST_MONEY) out.add("a price or its speed is below zero or beyond reason");
    }
    if (most < 0 || most > MOST_SECTORS) out.add("no card has as many sectors as it reaches");
    if (price.lot() > 0 && price.number() < 1) out.add("a lot has a number of boards");
    boolean said =
        settings.stream().allMatch(x -> texts(x.rule(), x.name(), x.value(), x.text()))
            && says.stream().allMatch(x -> texts(x.rule(), x.text()));
    if (!said) out.add("a setting or a caution of it lacks its text");
    return out.isEmpty()
        ? Optional.empty()
        : Optional.of("The part \"" + name + "\" is not taken: " + out.get(0) + ".");
  }
}
