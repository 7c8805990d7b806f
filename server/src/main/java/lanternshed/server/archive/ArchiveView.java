package lanternshed.server.archive;

import java.util.List;

/**
 * What the archive of a job would hold.
 *
 * @param images that the job names
 * @param pictures of it, {@code files} that were brought to it from a desktop
 */
record ArchiveView(List<ArchiveImage> images, int pictures, int files) {
  /**
   * @param what it is to the job, "as rescued"
   * @param here whether its bytes lie on the shelf, and can come along
   */
  record ArchiveImage(long id, String name, String what, String size, boolean here) {}
}
