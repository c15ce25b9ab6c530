/**
 * The pipeline: a file is read, checked and shaped on one thread, delivered on others, and every commit carries a mark
 * from which a restart goes on. Accounts for every record and refuses to call a run finished that does not balance.
 *
 * <p>Enter at {@link ninepin.core.run.Run}. Flow: {@link ninepin.core.run.ChunkProducer} fills chunks, a bounded queue
 * holds them, {@link ninepin.core.run.OrderedLoaders} load them side by side and commit them in the order of the file,
 * {@link ninepin.core.run.Journal} keeps what was refused.
 */
package ninepin.core.run;
