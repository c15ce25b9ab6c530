/**
 * Follows single records: from a row in a target to the run, the line and the bytes it was made of, and from a line of a
 * file to what became of it. Nothing is logged for this while a run loads: the kept file is read once more, as far as the
 * record. Enter at {@link ninepin.server.follow.Following}.
 */
package ninepin.server.follow;
