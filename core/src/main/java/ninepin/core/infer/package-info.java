/**
 * Proposes a layout from a sample. Enter at {@link ninepin.core.infer.Proposer}. Every part of a proposal says how sure
 * it is and what speaks against it; nothing here is used by a run.
 */
package ninepin.core.infer;
