/**
 * Documents: records that stand or fall as one, gathered by a key or nested by the layout. What keeps them out, what has to
 * hold across them, the lane they take, and the rows they become.
 *
 * <p>Flow: {@link ninepin.core.document.DocumentFile} puts the records in order, {@link ninepin.core.document.DocumentStream} reads and checks records and hands out whole documents,
 * {@link ninepin.core.document.DocumentShaper} decides what becomes of each and writes its rows. A run, the bench and a
 * restart all go through the same two. Definitions of a job's author are {@link ninepin.core.document.Gathering},
 * {@link ninepin.core.document.DocumentCheck}, {@link ninepin.core.document.SetAside},
 * {@link ninepin.core.document.Duplicates} and {@link ninepin.core.document.Lanes}.
 */
package ninepin.core.document;
