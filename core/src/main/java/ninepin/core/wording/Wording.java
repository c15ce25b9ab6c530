package ninepin.core.wording;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import ninepin.core.document.SetAside;
import ninepin.core.document.Summary;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Likeness;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.ShapingContext;

/** Reads instructions in ordinary English, one on a line. */
public final class Wording {

    /** The most lines that are read at once. */
    public static final int MOST_LINES = 50;

    private static final int MOST_LENGTH = 400;

    /**
     * What an instruction stands for.
     *
     * @param line the instruction
     * @param rules the rules it stands for, each to take the place of the one of its target field
     * @param aside the records that it leaves out, or null
     * @param delivery a delivery of its own, with a summary and without a table yet; or null
     * @param sentences the rules in words
     * @param problem why it is not understood, or null
     * @param nearest an instruction that is understood and near to it; null where it is understood
     */
    public record Understood(
            String line,
            List<Rule> rules,
            SetAside aside,
            Delivery delivery,
            List<String> sentences,
            String problem,
            String nearest) {}

    private Wording() {}

    /** Instructions of every kind, to show what is understood. */
    public static List<String> examples() {
        return new Phrases(null).all().stream().map(Phrases.Phrase::example).toList();
    }

    /**
     * Reads instructions.
     *
     * @param text the instructions, one on a line
     * @param layout the layout of the documents
     * @param number the index of the delivery that they are about
     * @param targets its target fields
     * @param context what rules can take
     */
    public static List<Understood> of(
            String text, Job job, Layout layout, int number, List<String> targets, ShapingContext context) {
        Delivery delivery = job.deliveries().get(number);
        int type = Math.max(0, delivery.type(layout));
        List<Rule> rules = new ArrayList<>(delivery.shaping());
        List<Understood> all = new ArrayList<>();
        for (String line :
                text.lines().filter(l -> !l.isBlank()).limit(MOST_LINES).toList()) {
            FormulaScope scope = new FormulaScope(layout, type, context.surroundings(), new Notices());
            Vocabulary words =
                    new Vocabulary(scope, targets, rules, context.codes().names());
            Understood understood = one(line, delivery, new Phrases(words));
            for (Rule rule : understood.rules()) {
                rules.removeIf(r -> r.target().equalsIgnoreCase(rule.target()));
                rules.add(rule);
            }
            all.add(understood);
        }
        return all;
    }

    private static Understood one(String line, Delivery about, Phrases phrases) {
        String text =
                line.strip().replaceAll("\\s+", " ").replaceFirst("[.!]$", "").replaceFirst("(?i)^please ", "");
        String problem = text.length() > MOST_LENGTH ? "This is too long for one instruction." : null;
        String nearest = null;
        for (Phrases.Phrase phrase : text.length() > MOST_LENGTH ? List.<Phrases.Phrase>of() : phrases.all()) {
            Matcher m = phrase.pattern().matcher(text);
            if (!m.matches()) {
                continue;
            }
            try {
                Phrases.Meaning meaning = phrases.meaning(phrase, m);
                List<String> sentences = new ArrayList<>(
                        meaning.rules().stream().map(Rule::sentence).toList());
                if (meaning.aside() != null) {
                    sentences.add(
                            "Records are set aside where " + meaning.aside().when());
                }
                if (meaning.summary() != null) {
                    sentences.add(meaning.summary().sentence());
                }
                return new Understood(
                        line,
                        meaning.rules(),
                        meaning.aside(),
                        delivery(about, meaning.summary()),
                        sentences,
                        null,
                        null);
            } catch (Misunderstood | DefinitionException e) {
                if (problem == null) {
                    problem = e.getMessage();
                    nearest = phrase.example();
                }
            }
        }
        return new Understood(
                line,
                List.of(),
                null,
                null,
                List.of(),
                problem == null ? "This is not understood." : problem,
                nearest == null ? nearest(text, phrases) : nearest);
    }

    /** A delivery of a summary, with a rule for each of its fields; null where there is none. */
    private static Delivery delivery(Delivery about, Summary summary) {
        if (summary == null) {
            return null;
        }
        List<Rule> rules = summary.names().stream()
                .map(n -> new Rule(n, new Origin.OfField(n), null, null))
                .toList();
        return new Delivery(about.of(), about.lane(), summary, null, rules);
    }

    /** The example that has the most words in common with an instruction. */
    private static String nearest(String text, Phrases phrases) {
        Set<String> words =
                new HashSet<>(List.of(text.toLowerCase(java.util.Locale.ROOT).split("[^\\p{L}\\p{Nd}]+")));
        return phrases.all().stream()
                .map(Phrases.Phrase::example)
                .max(Comparator.comparingDouble(e -> common(e, words) + Likeness.of(e, text, Set.of())))
                .orElseThrow();
    }

    private static long common(String example, Set<String> words) {
        return java.util.Arrays.stream(
                        example.toLowerCase(java.util.Locale.ROOT).split("[^\\p{L}\\p{Nd}]+"))
                .filter(words::contains)
                .count();
    }
}
