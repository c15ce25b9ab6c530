/**
 * Bytes to records, with positions. A reader hands out one record at a time as slices of its own buffer, together with
 * where it stands in the file; value parsers turn a slice into a typed value without making objects on the way.
 *
 * <p>Enter at {@link ninepin.core.read.DelimitedReader} for records and {@link ninepin.core.read.ValueParser} for
 * values. A record and a value belong to the reader and the caller's thread, and hold until the next one is read.
 */
package ninepin.core.read;
