package ninepin.server.transfer;

/**
 * Something happened to the files of a run that are sent.
 *
 * @param kind {@code sent} or {@code not sent}
 */
public record FilesTold(long run, String kind, String text) {}
