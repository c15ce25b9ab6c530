/**
 * A whole job and its layout as people write, keep and exchange them: JSON with a published schema, checked whole
 * against the layout and the real target before it may run.
 *
 * <p>Enter at {@link ninepin.core.job.Job}, {@link ninepin.core.job.Definitions} for JSON,
 * {@link ninepin.core.job.Readiness} for the check and {@link ninepin.core.job.Preview} for the bench.
 */
package ninepin.core.job;
