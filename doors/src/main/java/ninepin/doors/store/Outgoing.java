package ninepin.doors.store;

import java.nio.file.Path;

/**
 * A file on its way to a store.
 *
 * @param file where it lies here
 * @param name the name that it gets there
 * @param replace whether a file of that name gives way
 * @param uploaded whether it was uploaded whole under the name before
 * @param before the hidden name of the attempt before, or null
 * @param hidden the hidden name of this attempt
 */
public record Outgoing(Path file, String name, boolean replace, boolean uploaded, String before, String hidden) {}
