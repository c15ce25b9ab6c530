/**
 * The model of a file: what a record type is, which fields it has, where they stand, what type their values have and
 * which checks they carry. Immutable values, validated when built, with no knowledge of how bytes are read.
 *
 * <p>Enter at {@link ninepin.core.layout.Layout}. Everything else in the core works on it.
 */
package ninepin.core.layout;
