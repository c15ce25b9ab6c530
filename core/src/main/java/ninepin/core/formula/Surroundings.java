package ninepin.core.formula;

import java.time.LocalDate;
import java.util.Map;
import ninepin.core.codes.CodeTables;
import ninepin.core.lookup.LookUpTables;

/**
 * What a formula can name beside its record.
 *
 * @param hosts texts that a formula names behind a colon; a null text is NULL
 * @param today the day of the run
 * @param codes the code lists
 * @param lookUps the look-ups with what they look into
 */
public record Surroundings(Map<String, String> hosts, LocalDate today, CodeTables codes, LookUpTables lookUps) {

    /** Without code lists and look-ups. */
    public Surroundings(Map<String, String> hosts, LocalDate today) {
        this(hosts, today, CodeTables.NONE, LookUpTables.NONE);
    }

    /** With some of the look-ups. */
    Surroundings with(LookUpTables some) {
        return new Surroundings(hosts, today, codes, some);
    }
}
