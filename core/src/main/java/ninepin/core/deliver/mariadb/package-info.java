/** Delivery to MariaDB tables: chunks streamed from memory through {@code LOAD DATA LOCAL INFILE}. */
package ninepin.core.deliver.mariadb;
