/** Runs: accepted, executed one at a time for each job, watched, restarted; their findings and rejects. */
package ninepin.server.runs;
