/** What is on a medium: brings table, volumes, geometry and boot chain together in one reading. */
package lanternshed.core.survey;
