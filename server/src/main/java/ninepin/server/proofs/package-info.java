/** Samples that are kept with a job, proved at every change and before it goes live. */
package ninepin.server.proofs;
