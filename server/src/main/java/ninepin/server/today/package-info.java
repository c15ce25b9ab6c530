/** Overviews across jobs and runs: the first screen and the table of jobs. */
package ninepin.server.today;
