package lanternshed.core.cpu;

/** What is around a processor. Every method may end the run with a {@link Stop}. */
public interface Bus {

  /**
   * Reads a port.
   *
   * @param bytes 1, 2 or 4
   */
  int in(int port, int bytes);

  void out(int port, int value, int bytes);

  /**
   * Firmware is called: the processor executes F1 and a number in segment F000. Registers and flags
   * are the caller's; carry and zero go back to it.
   */
  void service(Cpu cpu, int number);

  /**
   * A far jump, call or return ended at another segment: where a loader is entered.
   *
   * @param segment of the code
   * @param offset in it
   */
  void arrived(Cpu cpu, int segment, int offset);

  /**
   * The processor halts.
   *
   * @return the number of an interrupt that wakes it
   */
  int halted(Cpu cpu);
}
