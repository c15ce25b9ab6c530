package ninepin.core.job;

/**
 * Something about a job that has to be mended before it may run, or that its author should know.
 *
 * @param blocks whether the job may not run with it
 * @param section the section of the sheet: 1 pick-up, 2 layout, 3 checks, 4 shaping, 5 delivery
 * @param subject the field or column concerned, or null
 * @param code the stable code of the message
 * @param message what is wrong and what to do
 */
public record Shortcoming(boolean blocks, int section, String subject, String code, String message) {}
