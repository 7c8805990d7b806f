/** The fault board of a job: parts, tests, dropped ideas, and what the core reasons from them. */
package lanternshed.server.fault;
