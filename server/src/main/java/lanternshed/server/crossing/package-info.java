/** Files that go over to a volume or a set of disks, and the list of names that leads back. */
package lanternshed.server.crossing;
