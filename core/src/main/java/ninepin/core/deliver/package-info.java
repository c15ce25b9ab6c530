/**
 * Rows to targets. A target is opened for a run; its connections load rows and commit them together
 * with a mark that says how far the run has come. The mark stands in the target itself, so rows and mark are one.
 *
 * <p>Enter at {@link ninepin.core.deliver.Target}. A further kind of database is one more implementation of it.
 */
package ninepin.core.deliver;
