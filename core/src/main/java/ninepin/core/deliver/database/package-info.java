/**
 * Tables of a database as the target of a run, whatever the database: rows and marks in one transaction, documents that
 * are refused found by halving. What one database does otherwise than another is its {@link
 * ninepin.core.deliver.database.Dialect}.
 */
package ninepin.core.deliver.database;
