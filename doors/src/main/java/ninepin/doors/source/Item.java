package ninepin.doors.source;

import java.time.Instant;

/**
 * Something that can be taken at a source.
 *
 * @param id what it is known by there, such as a name or a number
 * @param name the name of the file that is made of it
 * @param size its bytes; -1 where they are not known before it is fetched
 * @param changedAt when it was changed last; null where the source cannot tell, so that nobody can wait until it stays as it is
 * @param version what changes whenever its bytes do, as far as the source can tell
 */
public record Item(String id, String name, long size, Instant changedAt, String version) {}
