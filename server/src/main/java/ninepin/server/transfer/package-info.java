/** What moves between Ninepin and other places: threads for it, and the files that wait to be sent. */
package ninepin.server.transfer;
