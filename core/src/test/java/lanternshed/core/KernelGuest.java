package lanternshed.core;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A general kernel in a general PC emulator, which reads and writes disks by its own drivers. What
 * it needs lies in the folder that {@code -Dkernel} names: {@code vmlinuz}, {@code busybox} and
 * {@code modules}; {@code ./shed trials} fetches them from the system's packages.
 */
public final class KernelGuest {
  private static final String BEGIN = "-- begins";
  private static final String END = "-- ends";

  private KernelGuest() {}

  /** Where its parts lie; empty where nobody brought them. */
  public static Optional<Path> parts() {
    return Optional.ofNullable(System.getProperty("kernel"))
        .filter(k -> !k.isEmpty())
        .map(Path::of)
        .filter(k -> Files.exists(k.resolve("vmlinuz")));
  }

  /**
   * Starts it with disks, which it knows as vda, vdb and so on, and runs a script of its shell.
   *
   * @return the lines that the script said, in Latin-1
   */
  public static List<String> run(Path home, List<Path> disks, String script) throws IOException {
    Path parts = parts().orElseThrow();
    Path root = Files.createDirectories(home.resolve("root"));
    for (String folder : List.of("bin", "proc", "sys", "dev", "m", "modules")) {
      Files.createDirectories(root.resolve(folder));
    }
    Tool.run(
        "cp "
            + parts
            + "/busybox "
            + root
            + "/bin/; cp "
            + parts
            + "/modules/* "
            + root
            + "/modules/");
    String init =
        String.join(
            "\n",
            "#!/bin/busybox sh",
            "/bin/busybox --install -s /bin; export PATH=/bin",
            "mount -t proc proc /proc; mount -t sysfs sys /sys; mount -t devtmpfs dev /dev",
            // By whatever depends on what: three times is enough.
            "for pass in 1 2 3; do for m in /modules/*; do insmod $m 2>/dev/null; done; done",
            "echo '" + BEGIN + "'",
            script,
            "echo '" + END + "'",
            "poweroff -f",
            "");
    Files.writeString(root.resolve("init"), init, StandardCharsets.ISO_8859_1);
    Path initrd = home.resolve("initrd");
    Tool.run(
        "chmod +x "
            + root
            + "/init; cd "
            + root
            + "; find . | ./bin/busybox cpio -o -H newc > "
            + initrd);
    StringBuilder line = new StringBuilder("timeout 240 qemu-system-x86_64 -m 256 -display none");
    line.append(" -serial file:").append(home.resolve("said")).append(" -monitor none -no-reboot");
    line.append(" -kernel ").append(parts).append("/vmlinuz -initrd ").append(initrd);
    line.append(" -append 'console=ttyS0 quiet panic=1'");
    for (Path d : disks) line.append(" -drive format=raw,if=virtio,file=").append(d);
    Tool.run(line.toString());
    List<String> all =
        Files.readString(home.resolve("said"), StandardCharsets.ISO_8859_1)
            .lines()
            .map(l -> l.replace("\r", ""))
            .toList();
    int from = all.indexOf(BEGIN);
    int to = all.indexOf(END);
    if (from < 0 || to < from) throw new AssertionError("It did not come to its end: " + all);
    return all.subList(from + 1, to);
  }
}
