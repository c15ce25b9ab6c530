/** PostgreSQL: its dialect, its catalog, and {@code COPY}. */
package ninepin.core.deliver.postgresql;
