/**
 * What a format has to be: {@link ninepin.core.record.FormatSupport} opens files and begins them, {@link
 * ninepin.core.record.Opening} gives readers, a {@link ninepin.core.record.RecordReader} hands out one record at a time as
 * slices of its own buffer, together with where it stands in the file, and a {@link ninepin.core.record.RecordWriter} writes
 * them. A record belongs to its reader and the caller's thread, and holds until the next one is read.
 */
package ninepin.core.record;
