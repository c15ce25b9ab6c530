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
 */
public record Shortcoming(boolean blocks, int section, int delivery, String subject, String code, String message) {

    /** The same, with the delivery it is about said first. */
    Shortcoming of(Delivery to) {
        String name = to.to() != null ? to.to().label() : to.of();
        return new Shortcoming(blocks, section, delivery, subject, code, name + ": " + message);
    }
}
