package ninepin.core.document;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.check.SeenKeys;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Shown;
import ninepin.core.record.Locator;
import ninepin.core.record.RawRecord;
import ninepin.core.value.Value;

/** Gathers records that follow each other with one key: tells where a document begins, and splits head from lines. */
final class Gatherer {

    private final RecordType type;
    private final Charset charset;
    private final String document;
    private final Severity differing;
    private final int[] key;
    private final int[] head;
    private final int[] line;
    private final Value[] headValues;
    private final Value[] lineValues;
    private final SeenKeys seen;
    /** The values of the first record of the document, by field of the file; those of the head alone. */
    private final Value[] first;

    private boolean open;
    private Locator firstAt;

    Gatherer(Gathering gathering, Layout file) {
        this.type = file.firstType();
        this.charset = file.format().charset().ofValues().charset();
        this.document = gathering.document();
        this.differing = gathering.differing();
        this.key = indexes(gathering.by());
        List<String> names = type.fields().stream().map(f -> f.name()).toList();
        this.head = indexes(names.stream().filter(gathering.head()::contains).toList());
        this.line = indexes(
                names.stream().filter(n -> !gathering.head().contains(n)).toList());
        this.headValues = new Value[head.length];
        this.lineValues = new Value[line.length];
        this.seen = new SeenKeys(key, charset);
        this.first = new Value[names.size()];
        for (int i = 0; i < first.length; i++) {
            first[i] = new Value();
        }
    }

    private int[] indexes(List<String> fields) {
        return fields.stream().mapToInt(type::indexOf).toArray();
    }

    /** Whether a good or refused record has another key than the document that is open. */
    boolean startsDocument(Value[] values) {
        if (!open) {
            return false;
        }
        for (int f : key) {
            if (!values[f].sameAs(first[f])) {
                return true;
            }
        }
        return false;
    }

    void close() {
        open = false;
    }

    /**
     * Adds a record to the document; the first one makes its head.
     *
     * @return what there is to say of how it goes with the document
     */
    List<Finding> add(RawRecord record, Value[] values, OpenDocument to) {
        List<Finding> findings = List.of();
        if (!open) {
            open = true;
            firstAt = record.locator();
            for (int f : head) {
                first[f].copyOf(values[f]);
            }
            for (int i = 0; i < head.length; i++) {
                headValues[i] = values[head[i]];
            }
            to.addValues(0, 0, headValues);
            findings = ofKey(record, values);
        } else {
            findings = differences(record, values);
        }
        for (int i = 0; i < line.length; i++) {
            lineValues[i] = values[line[i]];
        }
        to.addValues(1, 1, lineValues);
        return findings;
    }

    private List<Finding> ofKey(RawRecord record, Value[] values) {
        for (int f : key) {
            if (values[f].isNull()) {
                return List.of(
                        finding(Severity.REJECT, "DOC-04", record, f, "no value", "the key of its " + document, null));
            }
        }
        long before = seen.add(values, record.line());
        if (before == 0) {
            return List.of();
        }
        return List.of(finding(
                Severity.REJECT,
                "DOC-03",
                record,
                key[0],
                shown(values[key[0]]) + " again, which began a " + document
                        + (record.ownLocator() == null ? " on line " + before : " before"),
                "the records of one " + document + " one behind the other",
                "Sort the file by its key, or add a field to the key if these are two."));
    }

    private List<Finding> differences(RawRecord record, Value[] values) {
        List<Finding> findings = List.of();
        for (int f : head) {
            if (!values[f].sameAs(first[f])) {
                findings = findings.isEmpty() ? new ArrayList<>() : findings;
                findings.add(finding(
                        differing,
                        "DOC-02",
                        record,
                        f,
                        shown(values[f]),
                        "the same in every record of a " + document + ": " + shown(first[f]) + " on "
                                + firstAt.words(null, null),
                        null));
            }
        }
        return findings;
    }

    private String shown(Value value) {
        return value.isNull() ? "no value" : Shown.quoted(value.text(charset));
    }

    private Finding finding(
            Severity severity, String code, RawRecord record, int field, String found, String expected, String advice) {
        return new Finding(
                severity,
                code,
                record.locator(),
                record.number(),
                type.fields().get(field).name(),
                null,
                record.offset(),
                (int) Math.min(record.fullLength(), 1 << 20),
                found,
                expected,
                advice);
    }
}
