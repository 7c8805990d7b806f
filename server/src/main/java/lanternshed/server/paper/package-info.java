/** Sheets as PDF: how they look on paper, and nothing of what they say. */
package lanternshed.server.paper;
