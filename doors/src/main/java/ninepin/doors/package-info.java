/**
 * Where files come from and where they go, behind one port for each direction: a {@link ninepin.doors.source.Source} lists, fetches and
 * settles. Each kind is a package of its own; {@link ninepin.doors.Sources} finds it by what a job says.
 */
package ninepin.doors;
