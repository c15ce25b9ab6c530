/**
 * The formats that there are. {@link ninepin.core.format.Formats} is the door: it gives the {@link
 * ninepin.core.record.FormatSupport} of a layout, and is the only place that asks which format it is. Each format has a package
 * of its own below this one.
 */
package ninepin.core.format;
