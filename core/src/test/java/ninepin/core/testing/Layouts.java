package ninepin.core.testing;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;

/** Builds layouts for tests in a line or two. */
public final class Layouts {

    private FileCharset charset = FileCharset.UTF_8;
    private boolean header = true;
    private int skip;
    private char delimiter = ';';
    private BlankRows blankRows = BlankRows.SKIP;
    private final List<Field> fields = new ArrayList<>();

    public static Layouts delimited() {
        return new Layouts();
    }

    public Layouts charset(FileCharset newCharset) {
        charset = newCharset;
        return this;
    }

    public Layouts delimiter(char newDelimiter) {
        delimiter = newDelimiter;
        return this;
    }

    public Layouts noHeader() {
        header = false;
        return this;
    }

    public Layouts skip(int lines) {
        skip = lines;
        return this;
    }

    public Layouts blankRows(BlankRows policy) {
        blankRows = policy;
        return this;
    }

    public Layouts text(String name, Check... checks) {
        return field(name, new DataType.CharacterVarying(200), checks);
    }

    public Layouts field(String name, DataType type, Check... checks) {
        fields.add(header ? Field.under(name, type, checks) : Field.inColumn(fields.size() + 1, name, type, checks));
        return this;
    }

    public Layout build() {
        return new Layout(
                "test",
                "Test",
                new Delimited(charset, delimiter, '"', header, skip, blankRows),
                List.of(new RecordType("row", fields)));
    }
}
