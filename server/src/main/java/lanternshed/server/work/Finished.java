package lanternshed.server.work;

import java.util.List;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.Digests;

/**
 * What a piece of work has finished, kept beside its half image before the first step of storing:
 * whoever comes after a kill stores the rest and does nothing twice.
 *
 * @param name of the image
 * @param origin what it came from
 * @param lost sectors that did not come back
 * @param sentence for the station
 * @param proof of a build, as JSON; else ""
 */
record Finished(
    String name,
    Digests digests,
    long sectors,
    String origin,
    long lost,
    List<Holes.Hit> hits,
    String sentence,
    String proof) {}
