/** Media: stand-in drives and cards, and images that people bring in as originals. */
package lanternshed.server.media;
