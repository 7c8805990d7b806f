/** What goes on paper of a job: its record, and a label for card and machine (Z-2). */
package lanternshed.server.sheets;
