/** What is asked of every kind of source: it lists, fetches and settles. */
package ninepin.doors.source;
