package lanternshed.core.transfer;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.transfer.SerialLine.Protocol;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What is done and typed at both ends of a line, in the order in which it must be (T-9). */
public final class LineSteps {
  /**
   * A kind of end, as data.
   *
   * @param port as it calls it
   * @param set what sets the line; "" where its program does
   * @param none how it says that there is no parity, {@code space} that the eighth bit is 0
   * @param talks by protocol what is typed; where one is missing, its program has a menu or words
   *     of its own
   */
  public record End(
      String key,
      String name,
      String port,
      String set,
      String none,
      String space,
      Map<Protocol, Talk> talks) {}

  /** What is typed to send a file and to receive it. */
  public record Talk(String send, String receive) {}

  /**
   * One step.
   *
   * @param there whether it is done at the old machine
   * @param types what is typed; "" where there is nothing to type
   */
  public record LineStep(boolean there, String does, String types) {}

  private static final List<End> ENDS = load();

  private LineSteps() {}

  private static List<End> load() {
    try (InputStream in = LineSteps.class.getResourceAsStream("/transfer/ends.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<End>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The ends ship with the program", e);
    }
  }

  public static List<End> ends() {
    return ENDS;
  }

  /**
   * @param end key of what the machine is; the desktop is always the first
   * @param toMachine whether files go there; else they come from it
   * @throws ShedException where there is no such end
   */
  public static List<LineStep> of(SerialLine line, String end, boolean toMachine) {
    End there =
        ENDS.stream()
            .filter(e -> e.key().equals(end))
            .findFirst()
            .orElseThrow(() -> new ShedException("There is no end \"" + end + "\"."));
    End here = ENDS.get(0);
    List<LineStep> out = new ArrayList<>();
    out.add(
        new LineStep(
            true,
            "Both off: join the two with a null-modem cable; touch bare metal of a case first.",
            ""));
    out.add(set(line, here, false));
    out.add(set(line, there, true));
    out.add(flow(line));
    if (line.protocol().quotes()) {
      // Its first packet carries the name, so that the receiver only has to listen.
      out.add(talk(line, toMachine ? there : here, toMachine, false));
      out.add(talk(line, toMachine ? here : there, !toMachine, true));
    } else {
      out.add(talk(line, toMachine ? here : there, !toMachine, true));
      out.add(talk(line, toMachine ? there : here, toMachine, false));
    }
    out.add(after(line, toMachine));
    return out;
  }

  private static LineStep set(SerialLine line, End e, boolean there) {
    String says =
        "Set "
            + e.port()
            + " to "
            + Say.count(line.rate())
            + " bits a second, eight bits, "
            + (line.protocol() == Protocol.KERMIT_SEVEN ? "the eighth always 0" : "no parity")
            + ", one stop bit.";
    return new LineStep(there, says, filled(e.set(), line, e));
  }

  private static LineStep flow(SerialLine line) {
    return line.protocol().quotes()
        ? new LineStep(true, "XON and XOFF may stay on: no control character goes over bare.", "")
        : new LineStep(
            true, "Turn XON and XOFF off at both ends: the file has these bytes too.", "");
  }

  private static LineStep talk(SerialLine line, End e, boolean there, boolean sends) {
    Talk talk = e.talks().get(line.protocol());
    String does =
        (sends ? "Send the file" : "Receive the file")
            + " with "
            + line.protocol().words()
            + (talk == null ? ", binary, by the program that is there" : "")
            + (sends || line.protocol().quotes()
                ? "."
                : ", within " + XmodemSender.PATIENCE / 1000 + " s of the sender.");
    return new LineStep(
        there, does, talk == null ? "" : filled(sends ? talk.send() : talk.receive(), line, e));
  }

  private static LineStep after(SerialLine line, boolean there) {
    return line.protocol().quotes()
        ? new LineStep(there, "Compare the lengths, and the digests where both ends can.", "")
        : new LineStep(
            there,
            "What came is longer by up to "
                + (line.protocol().data() - 1)
                + " bytes of 1A, as no length is carried. Cut it to the file's own length, then"
                + " compare the digests.",
            "");
  }

  private static String filled(String pattern, SerialLine line, End e) {
    String parity = line.protocol() == Protocol.KERMIT_SEVEN ? e.space() : e.none();
    return pattern
        .replace("{port}", e.port())
        .replace("{rate}", Integer.toString(line.rate()))
        .replace("{parity}", parity);
  }
}
