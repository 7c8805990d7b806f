package lanternshed.core;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A process of the core's own classes that can be killed. */
public final class Child {
  private Child() {}

  /**
   * Starts {@code main} as quickly as a virtual machine can.
   *
   * @param log where all goes that it says
   */
  public static Process start(Class<?> main, Path log, String... args) throws IOException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-XX:TieredStopAtLevel=1", "-Xshare:auto", "-XX:+UseSerialGC", "-cp"));
    command.add(System.getProperty("java.class.path"));
    command.add(main.getName());
    command.addAll(List.of(args));
    return new ProcessBuilder(command)
        .redirectErrorStream(true)
        .redirectOutput(log.toFile())
        .start();
  }
}
