/** The plan of a job: what was chosen, and what the core's planner makes of it. */
package lanternshed.server.plans;
