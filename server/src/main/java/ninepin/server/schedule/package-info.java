/** When jobs look for files: Quartz with its store in the database, so schedules survive the application. */
package ninepin.server.schedule;
