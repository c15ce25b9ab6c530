package ninepin.core.deliver;

/**
 * A row that the target refused.
 *
 * @param row its index among the rows that were to be loaded
 * @param column the target column that the target names, or null
 * @param code the stable code of the message
 * @param reason the target's own words
 */
public record Refusal(int row, String column, String code, String reason) {}
