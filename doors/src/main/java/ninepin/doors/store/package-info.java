/** The port of stores, which files are put into, and how a file is sent to one exactly once. */
package ninepin.doors.store;
