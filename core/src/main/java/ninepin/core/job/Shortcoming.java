package ninepin.core.job;

/**
 * Something about a job that has to be mended before it may run, or that its author should know.
 *
 * @param blocks whether the job may not run with it
 * @param section the section of the sheet: 1 pick-up, 2 layout, 3 checks, 4 shaping, 5 delivery
 * @param delivery the delivery concerned, from 0; -1 when it concerns none
 * @param subject the field or column concerned, or null
 * @param code the stable code of the message
 * @param message what is wrong and what to do
 * @param mayPass whether it may be gone later without anybody changing anything, such as a database that is away
 */
public record Shortcoming(
        boolean blocks, int section, int delivery, String subject, String code, String message, boolean mayPass) {

    public Shortcoming(boolean blocks, int section, int delivery, String subject, String code, String message) {
        this(blocks, section, delivery, subject, code, message, false);
    }

    /** Something about the deliveries to one place that has to be mended. */
    public static Shortcoming ofPlace(String subject, String code, String message) {
        return new Shortcoming(true, 5, -1, subject, code, message);
    }

    /** The same as something that may be gone later. */
    public Shortcoming passing(boolean passes) {
        return new Shortcoming(blocks, section, delivery, subject, code, message, passes);
    }

    /** The same, with the delivery it is about said first. */
    public Shortcoming of(Delivery to) {
        String name = to.to() != null ? to.to().label() : to.of();
        return new Shortcoming(blocks, section, delivery, subject, code, name + ": " + message, mayPass);
    }
}
