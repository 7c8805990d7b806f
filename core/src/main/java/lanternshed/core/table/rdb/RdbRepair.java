package lanternshed.core.table.rdb;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;

/**
 * P-14: sums of the table's blocks that are wrong are written anew. What stands in a block is left
 * as it is: whether it is right, the places of the volumes must tell.
 */
final class RdbRepair implements Mending {
  private static final int LONGS = 64;
  private static final int MOST_LONGS = 128;
  private final Map<Long, byte[]> mended = new LinkedHashMap<>();
  private final Map<Long, String> kinds = new LinkedHashMap<>();

  RdbRepair(Medium medium, long at) {
    byte[] rdsk = medium.sector(at);
    look(at, rdsk, "RDSK");
    chain(medium, Bytes.be32(rdsk, Rdb.PART_LIST), Rdb.PART, "PART");
    chain(medium, Bytes.be32(rdsk, Rdb.FILESYSTEM_LIST), Rdb.FSHD, "FSHD");
    chain(medium, Bytes.be32(rdsk, Rdb.BAD_BLOCKS), Rdb.BADB, "BADB");
  }

  private void chain(Medium medium, long first, long mark, String kind) {
    long next = first;
    int links = 0;
    while (next < medium.sectors() && !kinds.containsKey(next) && links++ < Rdb.MOST_BLOCKS) {
      byte[] b = medium.sector(next);
      if (Bytes.be32(b, 0) != mark) return;
      look(next, b, kind);
      if (mark == Rdb.FSHD) chain(medium, Bytes.be32(b, Rdb.SEGMENTS), Rdb.LSEG, "LSEG");
      next = Bytes.be32(b, Rdb.NEXT);
    }
  }

  private void look(long at, byte[] b, String kind) {
    kinds.put(at, kind);
    if (Rdb.sums(b)) return;
    byte[] now = b.clone();
    long longs = Bytes.be32(now, Rdb.SUMMED_LONGS);
    if (longs <= Rdb.CHECKSUM / 4 || longs > MOST_LONGS) {
      longs = kind.equals("LSEG") || kind.equals("BADB") ? MOST_LONGS : LONGS;
      Bytes.putBe32(now, Rdb.SUMMED_LONGS, longs);
    }
    Bytes.putBe32(now, Rdb.CHECKSUM, 0);
    long sum = 0;
    for (int i = 0; i < longs; i++) sum += Bytes.be32(now, i * 4);
    Bytes.putBe32(now, Rdb.CHECKSUM, -sum);
    mended.put(at, now);
  }

  @Override
  public List<Finding> changes() {
    return mended.entrySet().stream()
        .map(
            e -> {
              String block = kinds.get(e.getKey()) + " at block " + Say.count(e.getKey());
              String sum = String.format("0x%08X", Bytes.be32(e.getValue(), Rdb.CHECKSUM));
              String what = "The sum of " + block + " is written anew, " + sum + ".";
              String todo = "What stands in it is left as it is: look whether it makes sense.";
              return Finding.wrong("P-14", block, what, todo);
            })
        .toList();
  }

  @Override
  public void apply(Medium copy) {
    mended.forEach((at, b) -> copy.write(at, 1, b, 0));
  }
}
