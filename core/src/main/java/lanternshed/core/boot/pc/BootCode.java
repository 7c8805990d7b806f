package lanternshed.core.boot.pc;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Boot code of our own for freshly built images: sector 0, the boot sector of a FAT12 or FAT16
 * volume, and the small loader of the demonstration's system file. All of it runs on an 8086.
 *
 * <p>Register conventions at the hand-over are those of the systems of the time: DL drive, DS:SI
 * the entry of the table that was used; at 0070:0000 also CH media byte, AX:BX the LBA of cluster
 * 2, and the first sector of the root folder at 0000:0500.
 */
public final class BootCode {

  /** What our code says when a link of the chain is broken; each names its link. */
  public enum Message {
    NO_ACTIVE("No active entry"),
    MANY_ACTIVE("Two active entries"),
    VOLUME_UNREADABLE("Volume start does not read"),
    NO_BOOT_SECTOR("No boot sector at the entry's C/H/S"),
    WRONG_GEOMETRY("Heads/sectors differ from firmware"),
    WRONG_HIDDEN("Hidden sectors differ from table"),
    NO_SYSTEM("System file not first in root"),
    NO_FILE("No system file in root"),
    UNREADABLE("Disk does not read"),
    /** FAT32 has less room for words. */
    NO_FILE_32("No system file"),
    UNREADABLE_32("Read error");

    private final String text;

    Message(String text) {
      this.text = text;
    }

    public String text() {
      return text;
    }
  }

  private static final int VOLUME_CODE_MOST = 510 - 0x3E;

  private BootCode() {}

  /**
   * Code for sector 0: moves itself to 0000:0600, finds the one active entry, reads its first
   * sector by C/H/S (by LBA where the entry's type says so) and starts it.
   */
  public static byte[] table() {
    Assembler a = new Assembler(0x600);
    a.op("FA 31 C0 8E D0 BC 00 7C FB"); // cli; xor ax,ax; mov ss,ax; mov sp,7C00; sti
    a.op("8E D8 8E C0 FC"); // mov ds,ax; mov es,ax; cld
    a.op("BE 00 7C BF 00 06 B9 00 01 F3 A5"); // mov si,7C00; mov di,600; mov cx,100; rep movsw
    a.address("EA", "here").op("00 00"); // jmp 0000:here
    a.label("here");
    a.op("F6 C2 80").near("75", "drive"); // test dl,80; jnz drive
    a.op("B2 80"); // mov dl,80: some firmware passes nothing
    a.label("drive");
    a.op("BE BE 07 B9 04 00 31 DB"); // mov si,7BE; mov cx,4; xor bx,bx
    a.label("find");
    a.op("F6 04 80").near("74", "next"); // test byte [si],80; jz next
    a.op("09 DB").near("75", "many"); // or bx,bx; jnz many
    a.op("89 F3"); // mov bx,si
    a.label("next");
    a.op("83 C6 10").near("E2", "find"); // add si,10; loop find
    a.op("09 DB").near("74", "none"); // or bx,bx; jz none
    a.op("89 DE BF 05 00"); // mov si,bx; mov di,5: five tries
    a.label("try");
    a.op("56 57"); // push si; push di
    a.op("8A 44 04"); // mov al,[si+4]
    a.op("3C 0E").near("74", "lba"); // cmp al,0E; je lba
    a.op("3C 0C").near("74", "lba"); // cmp al,0C; je lba
    a.op("8A 74 01 8B 4C 02"); // mov dh,[si+1]; mov cx,[si+2]
    a.op("BB 00 7C B8 01 02 CD 13"); // mov bx,7C00; mov ax,201; int 13
    a.near("EB", "read");
    a.label("lba");
    // A packet on the stack: size 10, one sector, to 0000:7C00, the entry's LBA.
    a.op("31 C0 50 50"); // xor ax,ax; push ax; push ax
    a.op("FF 74 0A FF 74 08"); // push word [si+A]; push word [si+8]
    a.op("50 B8 00 7C 50"); // push ax; mov ax,7C00; push ax
    a.op("B8 01 00 50 B8 10 00 50"); // mov ax,1; push ax; mov ax,10; push ax
    a.op("89 E6 B4 42 CD 13"); // mov si,sp; mov ah,42; int 13
    a.op("8D 64 10"); // lea sp,[si+10]: leaves the flags
    a.label("read");
    a.op("5F 5E").near("73", "ok"); // pop di; pop si; jnc ok
    a.op("31 C0 CD 13 4F").near("75", "try"); // xor ax,ax; int 13; dec di; jnz try
    a.address("BE", "unreadable").near("EB", "say");
    a.label("ok");
    a.op("81 3E FE 7D 55 AA").near("75", "nosector"); // cmp word [7DFE],AA55; jne
    a.op("EA 00 7C 00 00"); // jmp 0000:7C00
    a.label("nosector").address("BE", "nosectortext").near("EB", "say");
    a.label("many").address("BE", "manytext").near("EB", "say");
    a.label("none").address("BE", "nonetext");
    say(a);
    a.label("unreadable").text(Message.VOLUME_UNREADABLE.text());
    a.label("nosectortext").text(Message.NO_BOOT_SECTOR.text());
    a.label("manytext").text(Message.MANY_ACTIVE.text());
    a.label("nonetext").text(Message.NO_ACTIVE.text());
    byte[] code = a.assemble();
    if (code.length > 440) throw new IllegalStateException("sector 0 code: " + code.length);
    return code;
  }

  /** Prints the text at SI by the firmware's teletype call, then stands still. */
  static void say(Assembler a) {
    a.label("say");
    a.op("AC 08 C0").near("74", "stop"); // lodsb; or al,al; jz stop
    a.op("BB 07 00 B4 0E CD 10").near("EB", "say"); // mov bx,7; mov ah,0E; int 10
    a.label("stop").op("F4").near("EB", "stop"); // hlt; jmp stop
  }

  /**
   * Code for offset 3E of a FAT12 or FAT16 boot sector: reads the root folder by C/H/S computed
   * from the sector's own fields, and loads its first file, which must begin at cluster 2, to
   * 0070:0000. When the file is not there it asks the firmware for its geometry and says which
   * field is wrong.
   *
   * @param systemFile 8.3 name of the first system file
   */
  public static byte[] volume(String systemFile) {
    Assembler a = new Assembler(0x7C3E);
    a.op("FA 31 C0 8E D0 BC 00 7C FB"); // cli; xor ax,ax; mov ss,ax; mov sp,7C00; sti
    a.op("8E D8 8E C0 FC BD 00 7C"); // mov ds,ax; mov es,ax; cld; mov bp,7C00
    a.op("88 56 24 56"); // mov [bp+24],dl; push si: the table entry, at 7BFE
    a.op("8A 46 10 98 F7 66 16"); // mov al,[bp+10]; cbw; mul word [bp+16]: FATs
    a.op("03 46 0E 83 D2 00"); // add ax,[bp+0E]; adc dx,0: reserved
    a.op("03 46 1C 13 56 1E"); // add ax,[bp+1C]; adc dx,[bp+1E]: hidden
    a.op("BB 00 05").far("E8", "read"); // mov bx,500; call read: first sector of the root
    a.op("52 50"); // push dx; push ax: LBA of the root
    a.address("BE", "name")
        .op("BF 00 05 B9 0B 00 F3 A6"); // mov si,name; mov di,500; mov cx,B; repe cmpsb
    a.near("75", "missing"); // jne missing
    a.op("83 3E 1A 05 02").near("75", "missing"); // cmp word [51A],2; jne missing
    // Sectors of the root: entries × 32 ÷ 512 = (entries + 15) ÷ 16.
    a.op("8B 4E 11 83 C1 0F D1 E9 D1 E9 D1 E9 D1 E9"); // mov cx,[bp+11]; add cx,F; shr cx,1 ×4
    a.op("58 5A 01 C8 83 D2 00"); // pop ax; pop dx; add ax,cx; adc dx,0: LBA of cluster 2
    a.op("52 50"); // push dx; push ax
    // Sectors of the file, at most 58: they must end below this sector.
    a.op("8B 0E 1D 05 D1 E9 41"); // mov cx,[51D]; shr cx,1; inc cx: size ÷ 512, and one more
    a.op("80 3E 1F 05 00").near("75", "cap"); // cmp byte [51F],0; jne cap
    a.op("83 F9 3A").near("76", "count"); // cmp cx,3A; jbe count
    a.label("cap").op("B9 3A 00"); // mov cx,3A
    a.label("count");
    a.op("BB 00 07"); // mov bx,700
    a.label("load");
    a.op("51").far("E8", "read").op("59"); // push cx; call read; pop cx
    a.op("81 C3 00 02 83 C0 01 83 D2 00"); // add bx,200; add ax,1; adc dx,0
    a.near("E2", "load"); // loop load
    a.op("5B 58 8A 6E 15 8A 56 24"); // pop bx; pop ax; mov ch,[bp+15]; mov dl,[bp+24]
    a.op("EA 00 00 70 00"); // jmp 0070:0000
    a.label("missing");
    a.op("B4 08 8A 56 24 CD 13").near("72", "nosystem"); // mov ah,8; mov dl,[bp+24]; int 13; jc
    a.op("83 E1 3F 3B 4E 18"); // and cx,3F; cmp cx,[bp+18]
    a.address("BE", "geometrytext").near("75", "say"); // mov si,…; jne say
    a.op("86 F2 30 F6 42 3B 56 1A")
        .near("75", "say"); // xchg dl,dh; xor dh,dh; inc dx; cmp dx,[bp+1A]
    a.op("8B 3E FE 7B 8B 45 08 3B 46 1C"); // mov di,[7BFE]; mov ax,[di+8]; cmp ax,[bp+1C]
    a.address("BE", "hiddentext").near("75", "say"); // mov si,…; jne say
    a.op("8B 45 0A 3B 46 1E").near("75", "say"); // mov ax,[di+A]; cmp ax,[bp+1E]; jne say
    a.label("nosystem").address("BE", "systemtext");
    say(a);
    // read: one sector, LBA DX:AX, to ES:BX; keeps AX, DX, BX.
    a.label("read");
    a.op("50 52"); // push ax; push dx
    a.op("91 92 31 D2 F7 76 18"); // xchg ax,cx; xchg ax,dx; xor dx,dx; div word [bp+18]
    a.op("91 F7 76 18 89 D6 46"); // xchg ax,cx; div word [bp+18]; mov si,dx; inc si: sector
    a.op("89 CA F7 76 1A"); // mov dx,cx; div word [bp+1A]: AX cylinder, DX head
    a.op("88 D6 8A 56 24"); // mov dh,dl; mov dl,[bp+24]
    a.op("88 C5 88 E1 D0 C9 D0 C9 80 E1 C0 09 F1"); // mov ch,al; mov cl,ah; ror cl,1 ×2; and cl,C0;
    // or cx,si
    a.op("B8 01 02 CD 13").near("72", "missing"); // mov ax,201; int 13; jc missing
    a.op("5A 58 C3"); // pop dx; pop ax; ret
    a.label("geometrytext").text(Message.WRONG_GEOMETRY.text());
    a.label("hiddentext").text(Message.WRONG_HIDDEN.text());
    a.label("systemtext").text(Message.NO_SYSTEM.text());
    a.label("name").bytes(onDisk(systemFile));
    byte[] code = a.assemble();
    if (code.length > VOLUME_CODE_MOST)
      throw new IllegalStateException("boot sector: " + code.length);
    return code;
  }

  /** The loader of the demonstration's first system file: prints its text and stands still. */
  public static byte[] loader(String text) {
    return loader(text, "");
  }

  /**
   * The same, entered where a contract enters it.
   *
   * @param contract as a system's generation names it (B-9)
   */
  public static byte[] loader(String text, String contract) {
    int offset = Contract.of(contract).orElseThrow().offset();
    Assembler a = new Assembler(offset);
    a.op("0E 1F FC"); // push cs; pop ds; cld
    a.address("BE", "text"); // mov si,text
    say(a);
    byte[] code = a.label("text").text(text).assemble();
    byte[] out = new byte[offset + code.length];
    System.arraycopy(code, 0, out, offset, code.length);
    return out;
  }

  /**
   * Code for the boot sector of a volume, by the contract of its system.
   *
   * @param kind "FAT12", "FAT16" or "FAT32"
   * @return empty where none is offered (B-9)
   */
  static byte[] volume(Contract c, String kind, String systemFile) {
    boolean fixedRoot = PcBoot.FIXED_ROOT.contains(kind);
    if (c == Contract.TWO_FILES) return fixedRoot ? volume(systemFile) : new byte[0];
    boolean fat = fixedRoot || kind.equals("FAT32");
    return fat ? NamedCode.of(c, kind, onDisk(systemFile)) : new byte[0];
  }

  /** Whether sector 0 carries our code, so that its messages can be predicted. */
  public static boolean isTable(byte[] sector) {
    byte[] ours = table();
    return Arrays.equals(ours, 0, ours.length, sector, 0, ours.length);
  }

  /**
   * The name of the system file that a boot sector with our code loads; "" where it is not ours.
   */
  public static String systemFileOf(byte[] sector) {
    int at = 0x3E + volume("A").length - 11;
    String full = name(sector, at);
    if (full.isEmpty()) return "";
    byte[] ours = volume(full);
    return Arrays.equals(ours, 0, ours.length, sector, 0x3E, 0x3E + ours.length) ? full : "";
  }

  /**
   * The name of the file that a boot sector with our code finds anywhere in the root; "" where it
   * is not ours.
   *
   * @param kind published name of the volume
   */
  static String namedFileOf(byte[] sector, String kind) {
    int at = kind.equals("FAT32") ? 0x5A : 0x3E;
    for (Contract c : Contract.values()) {
      byte[] ours = c == Contract.TWO_FILES ? new byte[0] : volume(c, kind, "A");
      if (ours.length == 0) continue;
      String name = name(sector, at + ours.length - 11);
      if (name.isEmpty()) continue;
      byte[] with = volume(c, kind, name);
      if (Arrays.equals(with, 0, with.length, sector, at, at + with.length)) return name;
    }
    return "";
  }

  /** A name as a folder keeps it, eight bytes and three; "" for what is none. */
  private static String name(byte[] sector, int at) {
    byte[] b = Arrays.copyOfRange(sector, at, at + 11);
    String base = new String(b, 0, 8, StandardCharsets.US_ASCII).strip();
    String extension = new String(b, 8, 3, StandardCharsets.US_ASCII).strip();
    String full = extension.isEmpty() ? base : base + "." + extension;
    return full.matches("[A-Z0-9_$-]{1,8}(\\.[A-Z0-9_$-]{1,3})?") ? full : "";
  }

  static byte[] onDisk(String name) {
    byte[] b = new byte[11];
    Arrays.fill(b, (byte) ' ');
    int dot = name.indexOf('.');
    String base = dot < 0 ? name : name.substring(0, dot);
    byte[] first = base.getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(first, 0, b, 0, Math.min(8, first.length));
    if (dot >= 0) {
      byte[] ext = name.substring(dot + 1).getBytes(StandardCharsets.US_ASCII);
      System.arraycopy(ext, 0, b, 8, Math.min(3, ext.length));
    }
    return b;
  }
}
