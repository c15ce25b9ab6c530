package ninepin.core.deliver;

/**
 * A document that the target refused.
 *
 * @param document its index in the batch
 * @param table the table whose row was refused
 * @param row the refused row, as far as the target tells; otherwise the document's first row in that table
 * @param column the target column that the target names, or null
 * @param code the stable code of the message
 * @param reason who refused it, and its own words
 */
public record Refusal(int document, int table, int row, String column, String code, String reason) {}
