/** Tables of one database. */
package ninepin.core.destination.tables;
