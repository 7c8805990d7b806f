package lanternshed.core.boot.pc;

/**
 * Boot sector code of our own for systems whose loader may lie anywhere in the root: it finds the
 * file by its name and follows its clusters. Disks are read by LBA where the firmware offers it and
 * by C/H/S from the sector's own fields where not. At the hand-over DL and BL have the drive, SS:BP
 * the boot sector.
 *
 * <p>The code for FAT12 and FAT16 runs on an 8086; that for FAT32 counts in 32 bits and asks for an
 * 80386. FAT12 leaves LBA out, for want of room: its volumes end where C/H/S still reaches.
 */
final class NamedCode {
  private static final int FAT_AT = 0x7C3E;
  private static final int FAT32_AT = 0x7C5A;
  private static final int END = 0x7DFE;

  private NamedCode() {}

  /**
   * @param kind "FAT12", "FAT16" or "FAT32"
   * @param file its name as a folder keeps it, 11 bytes
   */
  static byte[] of(Contract c, String kind, byte[] file) {
    boolean wide = kind.equals("FAT32");
    int at = wide ? FAT32_AT : FAT_AT;
    Assembler a = new Assembler(at);
    int drive = wide ? 0x40 : 0x24;
    begin(a, c, drive, !kind.equals("FAT12"));
    if (wide) fat32(a, c);
    else fat(a, c, kind.equals("FAT12"));
    a.label("name").bytes(file);
    byte[] code = a.assemble();
    if (code.length > END - at) throw new IllegalStateException(kind + " code: " + code.length);
    return code;
  }

  /** Moves out of the way, sets the stack, and asks for reading by LBA. */
  private static void begin(Assembler a, Contract c, int drive, boolean lba) {
    a.op("FA 31 C0 8E D8"); // cli; xor ax,ax; mov ds,ax
    a.op("BE 00 7C 89 F7"); // mov si,7C00; mov di,si
    a.op16("B8", c.codeSegment()).op("8E C0"); // mov ax,segment; mov es,ax
    a.op("B9 00 01 FC F3 A5"); // mov cx,100; cld; rep movsw
    a.address("EA", "go").op16("", c.codeSegment()); // jmp segment:go
    a.label("go");
    a.op("8E D8 8E D0 BC E0 7B FB"); // mov ds,ax; mov ss,ax; mov sp,7BE0; sti
    a.op("BD 00 7C").at("88 56", drive); // mov bp,7C00; mov [bp+drive],dl
    if (!lba) return;
    a.at("88 6E", drive + 1); // mov [bp+flag],ch: 0
    a.op("B4 41 BB AA 55 CD 13").near("72", "computed"); // mov ah,41; mov bx,55AA; int 13; jc
    a.op("81 FB 55 AA").near("75", "computed"); // cmp bx,AA55; jne
    a.op("80 E1 01").at("88 4E", drive + 1); // and cl,1; mov [bp+flag],cl
    a.label("computed");
  }

  private static void fat(Assembler a, Contract c, boolean twelve) {
    a.op("8B 46 0E 31 D2 03 46 1C 13 56 1E"); // mov ax,[bp+0E]; xor dx,dx; add hidden, 32 bits
    a.op("89 46 FC 89 56 FE"); // mov [bp-4],ax; mov [bp-2],dx: start of the FAT
    a.op("96 89 D7 8A 46 10 98 F7 66 16"); // xchg ax,si; mov di,dx; mov al,FATs; cbw; mul sectors
    a.op("01 F0 11 FA 52 50"); // add ax,si; adc dx,di; push dx; push ax: start of the root
    a.op("8B 76 11 89 F3 83 C3 0F"); // mov si,[bp+11]: entries; mov bx,si; add bx,F
    a.op("B1 04 D3 EB 01 D8 83 D2 00"); // mov cl,4; shr bx,cl; add ax,bx; adc dx,0
    a.op("89 46 F8 89 56 FA 58 5A"); // mov [bp-8],ax; mov [bp-6],dx: cluster 2; pop ax; pop dx
    a.label("root");
    a.op("BB 00 7E").far("E8", "read").op("89 DF"); // mov bx,7E00; call read; mov di,bx
    a.label("entry");
    a.op("56 57").address("BE", "name"); // push si; push di; mov si,name
    a.op("B9 0B 00 F3 A6 5F 5E"); // mov cx,B; repe cmpsb; pop di; pop si
    a.near("74", "found").op("4E").near("74", "missing"); // je found; dec si; jz missing
    a.op("83 C7 20 81 FF 00 80"); // add di,20; cmp di,8000
    a.near("72", "entry").near("EB", "root"); // jb entry; jmp root
    a.label("missing").address("BE", "nofile").far("E9", "say");
    a.label("found").op("8B 75 1A"); // mov si,[di+1A]: its first cluster
    count(a, c);
    a.op16("B8", c.segment()).op("8E C0"); // mov ax,segment; mov es,ax
    a.label("cluster");
    a.op("8D 44 FE 8A 4E 0D 30 ED F7 E1"); // lea ax,[si-2]; mov cl,[bp+0D]; xor ch,ch; mul cx
    a.op("03 46 F8 13 56 FA"); // add ax,[bp-8]; adc dx,[bp-6]
    a.label("sector");
    a.op("31 DB").far("E8", "read"); // xor bx,bx; call read
    a.op("8C C3 83 C3 20 8E C3"); // mov bx,es; add bx,20; mov es,bx
    a.op("FF 4E F6").near("74", "loaded").near("E2", "sector"); // dec [bp-A]; jz; loop
    a.op("06 1E 07 BB 00 7E"); // push es; push ds; pop es; mov bx,7E00
    if (twelve) next12(a);
    else next16(a);
    a.op("07").near("EB", "cluster"); // pop es; jmp cluster
    a.label("loaded");
    a.op("8A 56 24"); // mov dl,[bp+24]
    enter(a, c);
    a.label("read");
    a.op("50 52 51 56"); // push ax; push dx; push cx; push si
    if (!twelve) {
      a.op("F6 46 25 01").near("74", "chs"); // test byte [bp+25],1; jz chs
      a.op("31 F6 56 56 52 50 06 53"); // xor si,si; push si ×2, dx, ax, es, bx
      a.op("46 56 BE 10 00 56 89 E6"); // inc si; push si; mov si,10; push si; mov si,sp
      a.op("8A 56 24 B4 42 CD 13"); // mov dl,[bp+24]; mov ah,42; int 13
      a.op("8D 64 10").near("EB", "done"); // lea sp,[si+10]: leaves the flags; jmp done
    }
    a.label("chs");
    a.op("91 92 31 D2 F7 76 18"); // xchg ax,cx; xchg ax,dx; xor dx,dx; div word [bp+18]
    a.op("91 F7 76 18 89 D6 46"); // xchg ax,cx; div word [bp+18]; mov si,dx; inc si: sector
    a.op("89 CA F7 76 1A 88 D6"); // mov dx,cx; div word [bp+1A]; mov dh,dl: head
    a.op("8A 56 24 88 C5 88 E1"); // mov dl,[bp+24]; mov ch,al; mov cl,ah
    a.op("D0 C9 D0 C9 80 E1 C0 09 F1"); // ror cl,1 ×2; and cl,C0; or cx,si
    a.op("B8 01 02 CD 13"); // mov ax,201; int 13
    a.label("done");
    a.near("72", "bad").op("5E 59 5A 58"); // jc bad; pop si; pop cx; pop dx; pop ax
    a.op("83 C0 01 83 D2 00 C3"); // add ax,1; adc dx,0; ret
    a.label("bad").address("BE", "noread");
    BootCode.say(a);
    a.label("nofile").text(BootCode.Message.NO_FILE.text());
    a.label("noread").text(BootCode.Message.UNREADABLE.text());
  }

  /** Sectors to load, at [bp−10]: those of the contract, or as many as the file has. */
  private static void count(Assembler a, Contract c) {
    if (c.sectors() > 0) {
      a.op16("C7 46 F6", c.sectors()); // mov word [bp-A],sectors
      return;
    }
    a.op("8B 45 1C 8B 55 1E"); // mov ax,[di+1C]; mov dx,[di+1E]: bytes
    a.op("05 FF 01 83 D2 00"); // add ax,1FF; adc dx,0
    a.op("B1 09 D3 E8 B1 07 D3 E2 09 D0"); // shr ax,9; shl dx,7; or ax,dx
    a.op16("3D", c.mostSectors()).near("77", "missing"); // cmp ax,most; ja missing
    a.op("89 46 F6"); // mov [bp-A],ax
  }

  /** The cluster after SI, by an entry of 16 bits. */
  private static void next16(Assembler a) {
    a.op("89 F0 88 E0 30 E4 31 D2"); // mov ax,si; mov al,ah; xor ah,ah; xor dx,dx
    a.op("03 46 FC 13 56 FE").far("E8", "read"); // add ax,[bp-4]; adc dx,[bp-2]; call read
    a.op("81 E6 FF 00 D1 E6 8B 30"); // and si,FF; shl si,1; mov si,[bx+si]
  }

  /** The cluster after SI, by an entry of 12 bits, which may lie across two sectors. */
  private static void next12(Assembler a) {
    a.op("89 F7 D1 EE 9C 01 F7"); // mov di,si; shr si,1; pushf; add di,si: 1.5 bytes each
    a.op("89 F8 B1 09 D3 E8 81 E7 FF 01"); // mov ax,di; shr ax,9; and di,1FF
    a.op("31 D2 03 46 FC 13 56 FE").far("E8", "read"); // xor dx,dx; add ax,[bp-4]; adc; call read
    a.op("BB 00 80").far("E8", "read"); // mov bx,8000; call read: the sector behind it
    a.op("8B B5 00 7E 9D B1 04"); // mov si,[di+7E00]; popf; mov cl,4
    a.near("72", "odd").op("D3 E6"); // jc odd; shl si,cl
    a.label("odd").op("D3 EE"); // shr si,cl
  }

  private static void enter(Assembler a, Contract c) {
    a.op("88 D3").op16("EA", c.offset()).op16("", c.segment()); // mov bl,dl; jmp segment:offset
  }

  private static void fat32(Assembler a, Contract c) {
    a.op("66 0F B7 46 0E 66 03 46 1C"); // movzx eax,word [bp+0E]; add eax,[bp+1C]
    a.op("66 89 46 FC"); // mov [bp-4],eax: start of the FAT
    a.op("66 0F B6 4E 10 66 0F AF 4E 24"); // movzx ecx,byte [bp+10]; imul ecx,[bp+24]
    a.op("66 01 C8 66 89 46 F8"); // add eax,ecx; mov [bp-8],eax: cluster 2
    a.op("66 8B 76 2C"); // mov esi,[bp+2C]: first cluster of the root
    a.label("rootcluster").far("E8", "place");
    a.label("root").far("E8", "buffer").op("89 DF"); // call buffer; mov di,bx
    a.label("entry");
    a.op("51 56 57").address("BE", "name"); // push cx; push si; push di; mov si,name
    a.op("B9 0B 00 F3 A6 5F 5E 59"); // mov cx,B; repe cmpsb; pop di; pop si; pop cx
    a.near("74", "found").op("83 C7 20 81 FF 00 80"); // je found; add di,20; cmp di,8000
    a.near("72", "entry").near("E2", "root"); // jb entry; loop root
    a.far("E8", "next").near("72", "rootcluster"); // call next; jb rootcluster
    a.label("missing").address("BE", "nofile");
    BootCode.say(a);
    a.label("bad").address("BE", "noread").near("EB", "say");
    a.label("found").op("FF 75 14 FF 75 1A 66 5E"); // push word [di+14], [di+1A]; pop esi
    if (c.sectors() > 0) {
      a.op16("C7 46 F6", c.sectors()); // mov word [bp-A],sectors
    } else {
      a.op("66 8B 45 1C 66 05 FF 01 00 00"); // mov eax,[di+1C]; add eax,1FF
      a.op("66 C1 E8 09").op16("3D", c.mostSectors()); // shr eax,9; cmp ax,most
      a.near("77", "missing").op("89 46 F6"); // ja missing; mov [bp-A],ax
    }
    a.op16("B8", c.segment()).op("8E C0"); // mov ax,segment; mov es,ax
    a.label("cluster").far("E8", "place");
    a.label("sector").op("31 DB").far("E8", "read"); // xor bx,bx; call read
    a.op("8C C3 83 C3 20 8E C3"); // mov bx,es; add bx,20; mov es,bx
    a.op("FF 4E F6").near("74", "loaded").near("E2", "sector"); // dec [bp-A]; jz; loop
    a.op("06 1E 07").far("E8", "next").op("07"); // push es; push ds; pop es; call next; pop es
    a.near("EB", "cluster");
    a.label("loaded").op("8A 56 40"); // mov dl,[bp+40]
    enter(a, c);
    a.label("place"); // EAX the first sector of cluster ESI, CX its sectors
    a.op("67 66 8D 46 FE 66 0F B6 4E 0D"); // lea eax,[esi-2]; movzx ecx,byte [bp+0D]
    a.op("66 F7 E1 66 03 46 F8 C3"); // mul ecx; add eax,[bp-8]; ret
    a.label("next"); // ESI the cluster after it; carry while it is one
    a.op("66 89 F0 66 C1 E8 07 66 03 46 FC"); // mov eax,esi; shr eax,7; add eax,[bp-4]
    a.far("E8", "buffer").op("83 E6 7F C1 E6 02"); // call buffer; and si,7F; shl si,2
    a.op("66 8B 30 66 81 E6 FF FF FF 0F"); // mov esi,[bx+si]; and esi,0FFFFFFF
    a.op("66 81 FE F7 FF FF 0F C3"); // cmp esi,0FFFFFF7; ret
    a.label("buffer").op("BB 00 7E"); // mov bx,7E00
    a.label("read"); // one sector, LBA EAX, to ES:BX; EAX counts on
    a.op("66 60 F6 46 41 01").near("74", "chs"); // pushad; test byte [bp+41],1; jz chs
    a.op("6A 00 6A 00 66 50 06 53 6A 01 6A 10"); // push 0 ×2, eax, es, bx, 1, 10
    a.op("89 E6 8A 56 40 B4 42 CD 13"); // mov si,sp; mov dl,[bp+40]; mov ah,42; int 13
    a.op("8D 64 10").near("EB", "done"); // lea sp,[si+10]; jmp done
    a.label("chs");
    a.op("66 0F B7 4E 18 66 31 D2 66 F7 F1"); // movzx ecx,word [bp+18]; xor edx,edx; div ecx
    a.op("42 89 D1 31 D2 66 0F B7 7E 1A"); // inc dx; mov cx,dx; xor dx,dx; movzx edi,[bp+1A]
    a.op("66 F7 F7 88 D6 8A 56 40"); // div edi; mov dh,dl; mov dl,[bp+40]
    a.op("88 C5 C0 E4 06 08 E1 B8 01 02 CD 13"); // mov ch,al; shl ah,6; or cl,ah; mov ax,201; int
    a.label("done").op("66 61"); // popad
    a.op("73 03").far("E9", "bad"); // jnc on; jmp bad
    a.op("66 40 C3"); // inc eax; ret
    a.label("nofile").text(BootCode.Message.NO_FILE_32.text());
    a.label("noread").text(BootCode.Message.UNREADABLE_32.text());
  }
}
