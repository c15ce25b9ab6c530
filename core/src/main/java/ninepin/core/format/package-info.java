/**
 * What the product knows of each way to write a file, beyond what a layout says. {@link ninepin.core.format.Formats} is the door:
 * it gives the {@link ninepin.core.format.FormatSupport} of a layout, and is the only place that asks which format it is.
 */
package ninepin.core.format;
