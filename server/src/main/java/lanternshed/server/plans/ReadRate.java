package lanternshed.server.plans;

import java.util.Optional;

/** At which rate the machine of a job was seen to read; those who keep the figures say so. */
public interface ReadRate {
  /**
   * Bytes a second with the newest card in, else with the old drive; empty where none was taken.
   */
  Optional<Long> measured(long job);
}
