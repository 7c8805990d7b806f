package lanternshed.server.demo;

/**
 * How far the demonstration is laid out.
 *
 * @param running whether it goes on now
 * @param done parts of it that are there
 * @param of parts of it in all; 0 where none was asked for
 * @param what is being laid out; "" where nothing is
 * @param failed why it stopped before its end; "" where it did not
 */
record DemoView(boolean running, int done, int of, String what, String failed) {
  static final DemoView NONE = new DemoView(false, 0, 0, "", "");
}
