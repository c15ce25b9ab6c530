/** The command line: one job run from files, without the application. */
package ninepin.server.cli;
