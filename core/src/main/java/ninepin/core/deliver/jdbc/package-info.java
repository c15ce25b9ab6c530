/**
 * Any database with a JDBC driver: described by its own catalogue, loaded by batches in one transaction with the mark. What it
 * cannot do is said before a job goes live.
 */
package ninepin.core.deliver.jdbc;
