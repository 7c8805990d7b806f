package lanternshed.core.node;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Facts of devices from a tree as the system lays it out. */
class DeviceFactsTest {
  @TempDir Path root;
  private DeviceFacts facts;

  @BeforeEach
  void twoDevices() throws IOException {
    Path blocks = Files.createDirectories(root.resolve("block"));
    Path card = Files.createDirectories(root.resolve("devices/pci/usb1/block/sdz"));
    Path disk = Files.createDirectories(root.resolve("devices/pci/ata1/block/sdy"));
    Files.createSymbolicLink(blocks.resolve("sdz"), card);
    Files.createSymbolicLink(blocks.resolve("sdy"), disk);
    Files.createSymbolicLink(blocks.resolve("sdz1"), card.resolve("sdz1"));
    say(card, "size", "125440", "removable", "1", "ro", "0", "dev", "8:240");
    say(card, "device/model", "Reader  ", "device/vendor", "Mill", "device/serial", "READER01");
    say(card.resolve("sdz1"), "partition", "1", "dev", "8:241", "size", "125000");
    say(disk, "size", "3907029168", "removable", "0", "ro", "1", "dev", "8:224");
    say(disk, "device/serial", "DISK-4711");
    Files.createDirectories(root.resolve("dev"));
    for (String n : new String[] {"sdz", "sdy", "sdx"}) Files.createFile(root.resolve("dev/" + n));
    Files.createDirectories(root.resolve("proc/self"));
    facts = new DeviceFacts(blocks, root.resolve("proc"));
  }

  private static void say(Path d, String... pairs) throws IOException {
    for (int i = 0; i < pairs.length; i += 2) {
      Path file = d.resolve(pairs[i]);
      Files.createDirectories(file.getParent());
      Files.writeString(file, pairs[i + 1] + "\n");
    }
  }

  private DeviceFacts.Device of(String name) {
    return facts.of(root.resolve("dev/" + name));
  }

  @Test
  void aCardBehindAReaderHasNoSerialOfItsOwn() {
    DeviceFacts.Device d = of("sdz");
    assertThat(d.sectors()).isEqualTo(125_440);
    assertThat(d.removable()).isTrue();
    assertThat(d.readOnly()).isFalse();
    assertThat(d.serial()).isEmpty();
    assertThat(DeviceFacts.inWords(d)).isEqualTo("Mill Reader, USB, 61.2 MiB");
    assertThat(d.inUse()).isEmpty();
    assertThat(facts.removable()).containsExactly("sdz");
  }

  @Test
  void aDiskOfThisComputerIsNeitherRemovableNorWritable() {
    DeviceFacts.Device d = of("sdy");
    assertThat(d.removable()).isFalse();
    assertThat(d.readOnly()).isTrue();
    assertThat(d.serial()).isEqualTo("DISK-4711");
    assertThat(d.bus()).isEqualTo("ATA");
  }

  @Test
  void aPartThatIsMountedIsInUseByItsNumberWhateverItsName() throws IOException {
    Path info = root.resolve("proc/self/mountinfo");
    Files.writeString(info, "36 35 8:241 / /mnt/a\\040card rw - vfat /dev/disk/by-id/x rw\n");
    assertThat(of("sdz").inUse()).containsExactly("is mounted at /mnt/a card");
    assertThat(of("sdy").inUse()).isEmpty();
    Files.writeString(info, "36 35 0:99 / /mnt rw - btrfs /dev/sdz1 rw\n");
    assertThat(of("sdz").inUse()).containsExactly("is mounted at /mnt");
  }

  @Test
  void swapAndHoldersAreUseToo() throws IOException {
    Files.writeString(root.resolve("proc/swaps"), "Filename\n/dev/sdz1 partition 1 0 -2\n");
    Files.createDirectories(root.resolve("block/sdz/holders/dm-3"));
    assertThat(of("sdz").inUse()).containsExactly("is held by dm-3", "is used as swap");
  }

  @Test
  void whatIsGoneIsSaidInASentence() {
    assertThatThrownBy(() -> of("sdx"))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("is no block device");
    assertThatThrownBy(() -> of("nothing")).hasMessageContaining("does not answer");
  }

  /** Each exchange is another putting-in, and so is each start of the computer. */
  @Test
  void aPuttingInIsCountedByTheSystem() throws IOException {
    assertThat(facts.insertion(root.resolve("dev/sdz"))).isEmpty();
    Path card = root.resolve("block/sdz");
    say(card, "diskseq", "7");
    say(root.resolve("proc"), "sys/kernel/random/boot_id", "b-1");
    String first = facts.insertion(root.resolve("dev/sdz"));
    assertThat(first).isEqualTo("b-1 7");
    say(card, "diskseq", "8");
    assertThat(facts.insertion(root.resolve("dev/sdz"))).isNotEqualTo(first);
  }

  @Test
  void aReaderOfCompactDiscsIsNoReaderOfCards() throws IOException {
    say(root.resolve("block/sdz"), "device/type", "5");
    assertThat(facts.removable()).isEmpty();
  }

  /**
   * W-3: a card that was exchanged is noticed within a tenth of a second, and at no greater cost.
   */
  @Test
  void whetherANodeMayBeWrittenIsAskedTenTimesASecond() {
    long[] now = {5};
    int[] asked = {0};
    Runnable guard = OwnNodes.seldom(() -> asked[0]++, () -> now[0]);
    for (int i = 0; i < 99; i++) {
      guard.run();
      now[0] += 1_000_000;
    }
    assertThat(asked[0]).isZero();
    now[0] += 1_000_000;
    guard.run();
    guard.run();
    assertThat(asked[0]).isEqualTo(1);
  }
}
