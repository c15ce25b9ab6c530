/**
 * Proofs: a sample file kept with a job, together with what the job made of it when that was right. {@link
 * ninepin.core.proof.Proving} makes the same of it again, {@link ninepin.core.proof.Comparison} says exactly what differs.
 */
package ninepin.core.proof;
