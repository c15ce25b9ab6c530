/** Rows of a database, copied as one look at it to a file in the layout of the job. */
package ninepin.doors.query;
