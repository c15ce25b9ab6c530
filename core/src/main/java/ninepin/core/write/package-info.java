/**
 * Records to bytes, by the same layouts that read them: what is written here is read back the same. {@link
 * ninepin.core.write.RecordWriter} is the way in. Whoever opens a writer closes it, and with it the stream.
 */
package ninepin.core.write;
