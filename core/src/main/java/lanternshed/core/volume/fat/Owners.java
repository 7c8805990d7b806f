package lanternshed.core.volume.fat;

/**
 * Whose each cluster is, by number; 0 for nobody's. Memory is taken only where clusters have
 * owners.
 */
final class Owners {
  private static final int PAGE = 1 << 14;
  private final int[][] pages;

  Owners(int last) {
    this.pages = new int[last / PAGE + 1][];
  }

  int of(int cluster) {
    int[] p = pages[cluster / PAGE];
    return p == null ? 0 : p[cluster % PAGE];
  }

  void set(int cluster, int owner) {
    int[] p = pages[cluster / PAGE];
    if (p == null) {
      p = new int[PAGE];
      pages[cluster / PAGE] = p;
    }
    p[cluster % PAGE] = owner;
  }
}
