package ninepin.core.proof;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Names;
import ninepin.core.shape.RunFacts;

/**
 * A sample and what a job is expected to make of it.
 *
 * @param name what it is called; lower case letters, digits and hyphens
 * @param file the name of the sample file
 * @param fileName the name under which rules see the file
 * @param startedAt the day and time that rules see, and the day that checks of age see
 * @param asked the values given at start
 * @param expected what was made of the sample when that was right
 */
public record Proof(
        String name, String file, String fileName, LocalDateTime startedAt, Map<String, String> asked, Made expected) {

    /**
     * What a job makes of a file.
     *
     * @param ended how it ended: {@code finished}, or {@code halted} or {@code failed} with the reason
     * @param read how many records were read
     * @param rejected how many of them were rejected
     * @param setAside how many of them were set aside
     * @param rows the rows, in order
     * @param findings the findings, in order
     */
    public record Made(String ended, long read, long rejected, long setAside, List<Row> rows, List<Found> findings) {
        /** What is made of a file that was not looked at yet. */
        public static final Made NOTHING = new Made("", 0, 0, 0, List.of(), List.of());

        /** Whether making it failed, which says nothing of the job and is never expected. */
        public boolean failed() {
            return ended.startsWith("failed");
        }

        public Made {
            rows = rows == null ? List.of() : List.copyOf(rows);
            findings = findings == null ? List.of() : List.copyOf(findings);
        }
    }

    /**
     * A row.
     *
     * @param document the number of the first record of its document; for a group of a summary, its number below 0
     * @param to where it goes
     * @param values its values by target field; null for NULL
     */
    public record Row(long document, String to, Map<String, String> values) {
        public Row {
            values = java.util.Collections.unmodifiableMap(new java.util.LinkedHashMap<>(values));
        }
    }

    /**
     * A finding.
     *
     * @param record the number of its record, 0 for the file
     * @param code its code
     * @param message all of it
     */
    public record Found(long record, String code, String message) {}

    public Proof {
        Names.requireSlug("proof name", name);
        Names.requireText("proof.file", file);
        if (file.contains("/") || file.contains("\\") || file.startsWith(".")) {
            throw new DefinitionException("proof.file", "is the name of a file beside the proof");
        }
        fileName = fileName == null ? file : fileName;
        asked = asked == null ? Map.of() : Map.copyOf(asked);
        if (startedAt == null || expected == null) {
            throw new DefinitionException("proof", "says when it was made, and what is expected");
        }
    }

    /** What rules see of the run. */
    public RunFacts facts(String environment, Map<String, String> site) {
        return facts(fileName, startedAt, asked, environment, site);
    }

    static RunFacts facts(
            String fileName,
            LocalDateTime at,
            Map<String, String> asked,
            String environment,
            Map<String, String> site) {
        LocalDate day = at.toLocalDate();
        return new RunFacts(0, fileName, day, at, environment, site, asked);
    }

    /**
     * The same with another expectation.
     *
     * @throws DefinitionException where making it failed, which says nothing of the job
     */
    public Proof expecting(Made other) {
        if (other.failed()) {
            throw new DefinitionException(
                    "proof", "expects no failure; making something of its sample " + other.ended());
        }
        return new Proof(name, file, fileName, startedAt, asked, other);
    }
}
