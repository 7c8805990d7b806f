package lanternshed.server.work;

import lanternshed.core.work.Progress;

/** Does one kind of work with the core's own tools, and settles what follows from it. */
interface Bench {
  WorkEntity.Kind kind();

  void run(WorkEntity w, Progress progress);

  /** After work that failed and does not go on. */
  void failed(WorkEntity w, String sentence);

  /** After work that a person cancelled. */
  void cancelled(WorkEntity w);
}
