package ninepin.core.deliver.file;

import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.TemporalPattern;

/**
 * A pattern of names. Between braces: {@code job}, {@code run}, {@code file} (the name of the file that was read, without
 * its ending), {@code date} and {@code time} (of the run, with a pattern if wanted, as in {@code {date:yyyyMMdd}}), {@code
 * number} (of the file in its run, from 1, with so many digits if wanted, as in {@code {number:4}}), or a target field: its
 * value in the file's first document. What cannot stand in a name becomes an underscore.
 */
public final class FileName {

    /**
     * What is the same for all files of a run.
     *
     * @param job the name of the job
     * @param run the number of the run
     * @param file the name of the file that is read
     * @param at the day and time of the run
     */
    public record Facts(String job, long run, String file, LocalDateTime at) {}

    private record Part(String name, String form) {}

    private static final Pattern BRACES = Pattern.compile("\\{([^{}:]*)(?::([^{}]*))?\\}|[{}]");
    private static final Pattern UNFIT = Pattern.compile("[^\\p{L}\\p{N}._+-]");
    private static final List<String> OWN = List.of("job", "run", "file", "date", "time", "number");
    /** What file systems take, less what a temporary name needs. */
    private static final int MOST_BYTES = 200;

    private final List<Object> parts = new ArrayList<>();

    private FileName() {}

    /** Reads a pattern. */
    public static FileName parse(String pattern) {
        FileName name = new FileName();
        Matcher m = BRACES.matcher(pattern);
        int at = 0;
        while (m.find()) {
            if (m.group(1) == null) {
                throw new DefinitionException("delivery.file.name", "a brace in \"" + pattern + "\" has no other one");
            }
            name.text(pattern.substring(at, m.start()));
            name.part(new Part(m.group(1).strip(), m.group(2)));
            at = m.end();
        }
        name.text(pattern.substring(at));
        if (pattern.startsWith(".")) {
            throw new DefinitionException("delivery.file.name", "begins with no point: such files are hidden");
        }
        return name;
    }

    private void text(String text) {
        if (UNFIT.matcher(text.replace(" ", "")).find()) {
            throw new DefinitionException(
                    "delivery.file.name", "\"" + text + "\" has a character that does not belong into a name");
        }
        parts.add(text);
    }

    private void part(Part part) {
        boolean timed = part.name.equals("date") || part.name.equals("time");
        if (part.name.isEmpty()) {
            throw new DefinitionException("delivery.file.name", "says nothing between two braces");
        }
        if (timed && part.form != null) {
            TemporalPattern.parse(part.form);
        } else if (part.form != null && !(part.name.equals("number") && part.form.matches("[1-9]"))) {
            throw new DefinitionException(
                    "delivery.file.name",
                    "\"" + part.form + "\" says nothing about " + part.name
                            + ": a number takes its digits, from 1 to 9, as in {number:4}");
        }
        parts.add(part);
    }

    /** The target fields that it names. */
    public List<String> fields() {
        return parts.stream()
                .flatMap(p -> p instanceof Part part && !OWN.contains(part.name) ? List.of(part.name).stream() : null)
                .toList();
    }

    /** Whether files of one run get different names by what they hold or by their number. */
    public boolean tellsFilesApart() {
        return names("number") || !fields().isEmpty();
    }

    /** Whether each run gives other names. */
    public boolean tellsRunsApart() {
        return names("run") || names("date") || names("time") || names("file") || !fields().isEmpty();
    }

    private boolean names(String name) {
        return parts.stream().anyMatch(p -> p instanceof Part part && part.name.equals(name));
    }

    /**
     * The name of a file.
     *
     * @param number its number in the run
     * @param value the value of a field; null where it has none
     * @return empty where it would be longer than a name may be
     */
    Optional<String> fill(Facts facts, int number, UnaryOperator<String> value) {
        StringBuilder name = new StringBuilder();
        for (Object part : parts) {
            name.append(part instanceof Part p ? fit(text(p, facts, number, value)) : part);
        }
        String all = name.toString();
        while (all.startsWith(".")) {
            all = "_" + all.substring(1);
        }
        return all.isBlank() || all.getBytes(StandardCharsets.UTF_8).length > MOST_BYTES
                ? Optional.empty()
                : Optional.of(all);
    }

    private static String fit(String text) {
        return UNFIT.matcher(text).replaceAll("_");
    }

    private static String text(Part part, Facts facts, int number, UnaryOperator<String> value) {
        switch (part.name) {
            case "job":
                return facts.job();
            case "run":
                return Long.toString(facts.run());
            case "file":
                int point = facts.file().lastIndexOf('.');
                return point > 0 ? facts.file().substring(0, point) : facts.file();
            case "date":
                return TemporalPattern.parse(part.form == null ? "yyyy-MM-dd" : part.form)
                        .format(facts.at());
            case "time":
                return TemporalPattern.parse(part.form == null ? "HHmmss" : part.form)
                        .format(facts.at());
            case "number":
                return part.form == null
                        ? Integer.toString(number)
                        : String.format(java.util.Locale.ROOT, "%0" + part.form + "d", number);
            default:
                String of = value.apply(part.name);
                return of == null || of.isBlank() ? "none" : of.strip();
        }
    }
}
