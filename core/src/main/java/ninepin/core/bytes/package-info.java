/**
 * Bytes that can be sought: a file on disk, or bytes in memory for a sample. Readers ask for pieces by position and
 * never for the whole. Enter at {@link ninepin.core.bytes.ByteSource}; {@link ninepin.core.bytes.RawPiece} shows them as they are.
 */
package ninepin.core.bytes;
