package lanternshed.server.jobs;

import java.util.List;
import lanternshed.core.prove.Shown;

/** What a job's machine is to show, held against what was read off it. */
public interface Foretold {
  /** One row a figure; none where nothing is foretold in figures. */
  List<Shown.ShownRow> rows(JobEntity job, List<Shown.Seen> seen);
}
