/** Long work: rescue, build, write, compare. All of it tells how far it is, and can be stopped. */
package lanternshed.core.work;
