/** Images on the shelf: stored once by digest, surveyed, browsed, handed out. */
package lanternshed.server.images;
