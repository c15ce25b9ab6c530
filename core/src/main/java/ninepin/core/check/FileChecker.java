package ninepin.core.check;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiPredicate;
import java.util.stream.IntStream;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Shown;
import ninepin.core.record.Locator;
import ninepin.core.record.RawRecord;
import ninepin.core.value.Value;

/** Gathers over the whole file what its checks ask for, and says at its end which of them do not hold. */
final class FileChecker {

    /** A field that a check reads, and the last value it had. */
    private static final class Watched {
        final int type;
        final int field;
        final String name;
        Value copy;
        Finding place;

        Watched(Layout layout, String name) {
            Layout.FieldPlace at = layout.place(0, name)
                    .orElseThrow(() -> new DefinitionException("fileChecks", "there is no field " + name));
            this.type = at.type();
            this.field = at.field();
            this.name = name;
        }

        void join(Watched behind) {
            if (behind.place != null) {
                copy = behind.copy;
                place = behind.place;
            }
        }

        boolean missing() {
            return copy == null || copy.isNull();
        }
    }

    /** A check with what it has gathered. */
    private static final class Gathered {
        final FileCheck check;
        final Watched field;
        final Watched other;
        final int countedType;
        private BigDecimal total = BigDecimal.ZERO;
        private long small;
        private int smallScale;
        long unread;
        long first;
        long last;
        boolean begun;

        /** Adds a value to the total; small ones of one scale without an object. */
        void add(Value value) {
            if (value.kind() == Value.Kind.NUMBER && (value.scale() == smallScale || small == 0)) {
                smallScale = value.scale();
                small += value.number();
                if (Math.abs(small) > Long.MAX_VALUE / 4) {
                    settle();
                }
                return;
            }
            BigDecimal number = number(value);
            if (number == null) {
                unread++;
            } else {
                total = total.add(number);
            }
        }

        private void settle() {
            total = total.add(BigDecimal.valueOf(small, smallScale));
            small = 0;
        }

        /** Gathers also what the same check has gathered behind; false where the two do not follow each other. */
        boolean join(Gathered behind) {
            total = total().add(behind.total());
            unread += behind.unread;
            if (field != null) {
                field.join(behind.field);
            }
            if (other != null) {
                other.join(behind.other);
            }
            boolean follows = !begun || !behind.begun || behind.first == last + 1;
            if (behind.begun) {
                first = begun ? first : behind.first;
                last = behind.last;
                begun = true;
            }
            return follows;
        }

        BigDecimal total() {
            settle();
            return total;
        }

        Gathered(FileCheck check, Watched field, Watched other, int countedType) {
            this.check = check;
            this.field = field;
            this.other = other;
            this.countedType = countedType;
        }
    }

    private final Layout layout;
    private final LocalDate today;
    private final java.nio.charset.Charset charset;
    private final long[] count;
    private long faulty;
    private final List<Gathered> all = new ArrayList<>();
    /** For each record type the totals to which its records add. */
    private final Gathered[][] totals;
    /** For each record type the other checks that look at its records. */
    private final Gathered[][] others;

    FileChecker(Layout layout, LocalDate today) {
        this.layout = layout;
        this.today = today;
        this.charset = layout.format().charset().ofValues().charset();
        this.count = new long[layout.recordTypes().size()];
        for (FileCheck check : layout.fileChecks()) {
            all.add(gathered(check));
        }
        for (RecordType type : layout.recordTypes()) {
            if (type.parent() == null && type.min() != null && type.min() > 0) {
                all.add(gathered(new FileCheck.Records(type.name(), (long) type.min(), null, Severity.HALT)));
            }
        }
        this.totals = ofType(FileChecker::addsTo);
        this.others = ofType((g, type) -> looksAt(g.field, type) || !addsTo(g, type) && looksAt(g.other, type));
    }

    private Gathered[][] ofType(BiPredicate<Gathered, Integer> which) {
        return IntStream.range(0, count.length)
                .mapToObj(type -> all.stream().filter(g -> which.test(g, type)).toArray(Gathered[]::new))
                .toArray(Gathered[][]::new);
    }

    private static boolean addsTo(Gathered g, int type) {
        return g.check instanceof FileCheck.Total && looksAt(g.other, type);
    }

    private static boolean looksAt(Watched watched, int type) {
        return watched != null && watched.type == type;
    }

    private Gathered gathered(FileCheck check) {
        if (check instanceof FileCheck.Count c) {
            return new Gathered(check, new Watched(layout, c.field()), null, type(c.of()));
        }
        if (check instanceof FileCheck.Total c) {
            return new Gathered(check, new Watched(layout, c.field()), new Watched(layout, c.of()), -1);
        }
        if (check instanceof FileCheck.Sequence c) {
            return new Gathered(check, new Watched(layout, c.field()), null, -1);
        }
        if (check instanceof FileCheck.Records c) {
            return new Gathered(check, null, null, type(c.of()));
        }
        if (check instanceof FileCheck.Same c) {
            return new Gathered(check, new Watched(layout, c.field()), new Watched(layout, c.as()), -1);
        }
        return new Gathered(check, new Watched(layout, ((FileCheck.NotOlder) check).field()), null, -1);
    }

    private int type(String name) {
        int type = layout.typeIndex(name);
        if (type < 0) {
            throw new DefinitionException("fileChecks", "there is no record type " + name);
        }
        return type;
    }

    boolean any() {
        return !all.isEmpty();
    }

    /** Whether a check that does not hold has to be known before anything is delivered. */
    boolean halts() {
        return all.stream().anyMatch(g -> g.check.severity() == Severity.HALT);
    }

    /** Takes a record that could not be read, and so is of no type. */
    void takeFaulty() {
        faulty++;
    }

    /** Takes a record's values; a number out of sequence is told at once. */
    void take(RawRecord r, TypeChecker typed, List<Finding> findings) {
        count[r.type()]++;
        for (Gathered g : totals[r.type()]) {
            g.add(typed.values[g.other.field]);
        }
        for (Gathered g : others[r.type()]) {
            watch(g.field, r, typed);
            if (!(g.check instanceof FileCheck.Total)) {
                watch(g.other, r, typed);
            }
            if (g.check instanceof FileCheck.Sequence s && g.field.type == r.type()) {
                sequence(g, s, r, typed, findings);
            }
        }
    }

    private void watch(Watched watched, RawRecord r, TypeChecker typed) {
        if (!looksAt(watched, r.type())) {
            return;
        }
        watched.copy = typed.values[watched.field].copy();
        watched.place = typed.at(Severity.NOTE, "", r, watched.field, typed.found(r, watched.field), null, null);
    }

    private static BigDecimal number(Value value) {
        return value.kind() == Value.Kind.NUMBER || value.kind() == Value.Kind.BIG_NUMBER ? value.ordered() : null;
    }

    private void sequence(Gathered g, FileCheck.Sequence s, RawRecord r, TypeChecker typed, List<Finding> findings) {
        Value value = typed.values[g.field.field];
        if (value.kind() != Value.Kind.NUMBER) {
            return;
        }
        long now = value.number();
        if (g.begun && now != g.last + 1) {
            findings.add(typed.at(
                    s.severity(),
                    "SEQ-01",
                    r,
                    g.field.field,
                    typed.found(r, g.field.field),
                    Long.toString(g.last + 1),
                    now > g.last + 1
                            ? (now - g.last - 1) + (now == g.last + 2 ? " is missing." : " are missing.")
                            : "It goes back."));
        }
        g.first = g.begun ? g.first : now;
        g.begun = true;
        g.last = now;
    }

    /** Gathers also what another has gathered behind; false where a record of its would have had another finding. */
    boolean join(FileChecker behind) {
        faulty += behind.faulty;
        for (int t = 0; t < count.length; t++) {
            count[t] += behind.count[t];
        }
        boolean same = true;
        for (int i = 0; i < all.size(); i++) {
            same &= all.get(i).join(behind.all.get(i));
        }
        return same;
    }

    /** What does not hold, now that the file is at its end. */
    List<Finding> atEnd() {
        List<Finding> findings = new ArrayList<>();
        for (Gathered g : all) {
            Finding finding = atEnd(g);
            if (finding != null) {
                findings.add(finding);
            }
        }
        return findings;
    }

    private Finding atEnd(Gathered g) {
        if (g.check instanceof FileCheck.Count c) {
            long found = count[g.countedType];
            return g.field.missing()
                    ? lacks(g, "CTL-01")
                    : equal(number(g.field.copy), BigDecimal.valueOf(found))
                            ? null
                            : breach(
                                    g,
                                    "CTL-01",
                                    Long.toString(found),
                                    "So many " + c.of() + " records could be read" + but(faulty, "record") + ".");
        }
        if (g.check instanceof FileCheck.Total c) {
            BigDecimal total = g.total();
            return g.field.missing()
                    ? lacks(g, "CTL-02")
                    : equal(number(g.field.copy), total)
                            ? null
                            : breach(
                                    g,
                                    "CTL-02",
                                    total.toPlainString(),
                                    "That is the total of " + c.of() + but(faulty, "record") + but(g.unread, "value")
                                            + ".");
        }
        if (g.check instanceof FileCheck.Records c) {
            long found = count[g.countedType];
            boolean holds = (c.min() == null || found >= c.min()) && (c.max() == null || found <= c.max());
            return holds ? null : ofFile(c.severity(), "CTL-03", found + " " + c.of() + " records", c.sentence());
        }
        if (g.check instanceof FileCheck.Same c) {
            if (g.field.missing() || g.other.missing()) {
                return g.field.missing() && g.other.missing() ? null : lacks(g, "CTL-04");
            }
            String one = g.field.copy.text(charset);
            String other = g.other.copy.text(charset);
            return one.strip().equals(other.strip())
                    ? null
                    : breach(g, "CTL-04", Shown.quoted(other), "That is what " + c.as() + " says.");
        }
        if (g.check instanceof FileCheck.NotOlder c && !g.field.missing()) {
            LocalDate oldest = today.minusDays(c.days());
            return LocalDate.ofEpochDay(g.field.copy.number()).isBefore(oldest)
                    ? breach(g, "CTL-05", "a day from " + oldest + " on", "An old file may have been sent again.")
                    : null;
        }
        return null;
    }

    /** What is missing from a count or total, because it could not be read. */
    private static String but(long missing, String what) {
        return missing == 0
                ? ""
                : ", without " + missing + " " + what + (missing == 1 ? "" : "s") + " that could not be read";
    }

    private static boolean equal(BigDecimal a, BigDecimal b) {
        return a != null && a.compareTo(b) == 0;
    }

    private static Finding lacks(Gathered g, String code) {
        return ofFile(g.check.severity(), code, "no " + g.field.name, g.check.sentence());
    }

    private static Finding ofFile(Severity severity, String code, String found, String expected) {
        return new Finding(severity, code, Locator.FILE, 0, null, null, 0, 0, found, "that " + expected, null);
    }

    private static Finding breach(Gathered g, String code, String expected, String advice) {
        Finding p = g.field.place;
        return new Finding(
                g.check.severity(),
                code,
                p.at(),
                p.record(),
                p.field(),
                null,
                p.offset(),
                p.length(),
                p.found(),
                expected,
                advice);
    }
}
