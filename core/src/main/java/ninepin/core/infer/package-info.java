/**
 * What proposers of layouts share: the samples, guesses of charsets and types, and a {@link ninepin.core.infer.Proposal} whose
 * every part says how sure it is and what speaks against it. Each format has a {@link ninepin.core.infer.Proposer} of its own;
 * {@code Proposals} in the package of formats asks them. Nothing here is used by a run.
 */
package ninepin.core.infer;
