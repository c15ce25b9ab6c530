/** Delimited text after RFC 4180, and what people write instead: reading, writing, rejects. */
package ninepin.core.format.delimited;
