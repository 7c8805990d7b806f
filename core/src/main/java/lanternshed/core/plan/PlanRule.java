package lanternshed.core.plan;

import java.util.List;

/** One rule of the handbook, asked of every plan. */
interface PlanRule {

  /** What it says of a layout; nothing where it does not apply. */
  List<Plan.Verdict> judge(Draft draft, Situation s);
}
