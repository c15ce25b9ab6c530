/**
 * Text to typed values and back, without making objects on the way. Enter at {@link ninepin.core.value.ValueParser} and
 * {@link ninepin.core.value.ValueFormat}. A {@link ninepin.core.value.Value} belongs to the caller's thread and holds until the
 * next one is parsed.
 */
package ninepin.core.value;
