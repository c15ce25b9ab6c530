/** Files of a folder of this machine. Fetching one is a move, in one step of the file system. */
package ninepin.doors.folder;
