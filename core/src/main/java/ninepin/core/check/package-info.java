/**
 * Findings: what a reader or a check has to say about one place in a file, and the checks themselves. A record is
 * checked whole, so that all its findings are known and not only the first.
 *
 * <p>Enter at {@link ninepin.core.check.RecordChecker}.
 */
package ninepin.core.check;
