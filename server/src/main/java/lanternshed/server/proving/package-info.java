/** What the machine should show and did show, and how fast it was before and is after. */
package lanternshed.server.proving;
