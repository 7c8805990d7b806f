package lanternshed.core.fault;

import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import tools.jackson.core.type.TypeReference;

/**
 * What an operation cannot be done without, as data ({@code /faults/operations.json}): a menu does
 * not come up without board, ROM and card, so no test asks for it without them.
 *
 * @param matches a pattern that is found in the operation's name
 * @param needs of each group of kinds one must take part, or be stood in for
 */
record Operation(Pattern matches, List<Set<String>> needs) {
  private static final List<Operation> ALL =
      FaultData.read("/faults/operations.json", new TypeReference<List<Operation>>() {});

  /**
   * Whether an operation can be done at all.
   *
   * @param operation its name
   * @param there kinds of the parts that take part, and of what is stood in for them
   * @param onBoard kinds of all parts on the board: what a machine has not is not needed either
   */
  static boolean possible(String operation, Set<String> there, Set<String> onBoard) {
    return needs(operation).stream()
        .filter(group -> group.stream().anyMatch(onBoard::contains))
        .allMatch(group -> group.stream().anyMatch(there::contains));
  }

  /** Whether it can be done with every storage part taken out. */
  static boolean withoutStorage(String operation) {
    return needs(operation).stream()
        .noneMatch(group -> group.stream().allMatch(k -> PartKinds.get(k).storage()));
  }

  private static List<Set<String>> needs(String operation) {
    return ALL.stream()
        .filter(o -> o.matches().matcher(operation).find())
        .findFirst()
        .map(Operation::needs)
        .orElse(List.of());
  }
}
