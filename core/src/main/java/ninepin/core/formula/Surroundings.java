package ninepin.core.formula;

import java.time.LocalDate;
import java.util.Map;
import ninepin.core.codes.CodeTables;

/**
 * What a formula can name beside its record.
 *
 * @param hosts texts that a formula names behind a colon; a null text is NULL
 * @param today the day of the run
 * @param codes the code lists
 */
public record Surroundings(Map<String, String> hosts, LocalDate today, CodeTables codes) {

    /** Without code lists. */
    public Surroundings(Map<String, String> hosts, LocalDate today) {
        this(hosts, today, CodeTables.NONE);
    }
}
