package lanternshed.core.fault;

/**
 * A part in play.
 *
 * @param group parts that may misbehave alike with one other part, "newer drives"; "" for none
 * @param fitted whether it is in the machine as it came; else it lies on the bench
 * @param swap what it takes to put it in
 */
public record Part(
    String id,
    String name,
    String kind,
    String group,
    boolean fitted,
    Cost swap,
    Suspicion suspicion) {}
