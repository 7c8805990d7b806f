/** What was wiped, when and how, for whoever asks later (Z-3). */
package lanternshed.server.certificates;
