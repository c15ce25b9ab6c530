/**
 * What formats share whose records are lines or blocks: a window that slides over the bytes, the ends of lines, tags that tell
 * record types apart, cuts for reading side by side. {@link ninepin.core.format.lines.WindowReader} is what their readers extend.
 */
package ninepin.core.format.lines;
