package ninepin.core.format.fixedlength;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.util.Arrays;
import java.util.List;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.Overpunch;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/** Writes each field at its position; text to the left, numbers to the right, blanks between. */
final class FixedLengthWriter implements RecordWriter {

    private final OutputStream out;
    private final Layout layout;
    private final FixedLength format;
    private final byte[] end;

    FixedLengthWriter(OutputStream out, Layout layout, WriteStyle style) {
        this.out = out;
        this.layout = layout;
        this.format = (FixedLength) layout.format();
        this.end = format.blockSize() != null
                ? new byte[0]
                : style.lineEndOr(WriteStyle.LineEnd.LF)
                        .getBytes(format.charset().charset());
    }

    @Override
    public void write(int type, List<String> values) throws IOException {
        RecordType of = layout.recordTypes().get(type);
        if (format.countsCharacters()) {
            out.write(characters(of, values).getBytes(format.charset().charset()));
        } else {
            out.write(bytes(of, values));
        }
        out.write(end);
    }

    private int length(RecordType of) {
        int end = of.fields().stream()
                .mapToInt(f -> ((Place.Span) f.place()).end())
                .max()
                .orElse(1);
        if (of.when() instanceof Recognition.Tag tag) {
            end = Math.max(end, tag.start() - 1 + tag.values().get(0).length());
        }
        return Math.max(
                end, format.blockSize() != null ? format.blockSize() : format.length() == null ? 0 : format.length());
    }

    /** A record in a charset whose characters have several bytes, counted in characters. */
    private String characters(RecordType of, List<String> values) {
        StringBuilder record = new StringBuilder(" ".repeat(length(of)));
        tag(of, (start, tag) -> record.replace(start, start + tag.length(), tag));
        for (int f = 0; f < values.size(); f++) {
            Field field = of.fields().get(f);
            if (values.get(f) != null) {
                String text = text(field, values.get(f));
                int room = field.room() - text.codePointCount(0, text.length());
                if (room < 0) {
                    throw tooLong(field, values.get(f));
                }
                String filled = right(field) ? " ".repeat(room) + text : text + " ".repeat(room);
                int from = record.offsetByCodePoints(0, start(field));
                record.replace(from, record.offsetByCodePoints(from, field.room()), filled);
            }
        }
        return record.toString();
    }

    private byte[] bytes(RecordType of, List<String> values) {
        byte blank = encoded(null, " ")[0];
        byte[] record = new byte[length(of)];
        Arrays.fill(record, blank);
        tag(of, (start, tag) -> {
            byte[] own = encoded(null, tag);
            System.arraycopy(own, 0, record, start, own.length);
        });
        for (int f = 0; f < values.size(); f++) {
            Field field = of.fields().get(f);
            String value = values.get(f);
            NumberForm form = NumberForm.of(field.type());
            if (value == null && form.raw()) {
                throw new UnwritableException(field.name(), "a packed or binary number cannot be NULL");
            }
            if (value == null) {
                continue;
            }
            byte[] own = form.raw() ? FixedNumber.raw(field, form, value) : written(field, form, value);
            if (own.length > field.room()) {
                throw tooLong(field, value);
            }
            int from = start(field) + (right(field) ? field.room() - own.length : 0);
            System.arraycopy(own, 0, record, from, own.length);
        }
        return record;
    }

    private byte[] written(Field field, NumberForm form, String value) {
        String text = text(field, value);
        if (!form.punched() || format.charset().ascii()) {
            return encoded(field, text);
        }
        byte[] bytes = encoded(field, text.replace('{', '0').replace('}', '0'));
        Overpunch.toEbcdic(text, bytes);
        return bytes;
    }

    private static boolean right(Field field) {
        return field.type() instanceof DataType.IntegerNumber || field.type() instanceof DataType.Decimal;
    }

    private static String text(Field field, String value) {
        return right(field)
                ? FixedNumber.digits(field, NumberForm.of(field.type()), value)
                : ValueFormat.text(field, value);
    }

    private byte[] encoded(Field field, String text) {
        try {
            ByteBuffer bytes = format.charset()
                    .charset()
                    .newEncoder()
                    .onUnmappableCharacter(CodingErrorAction.REPORT)
                    .encode(java.nio.CharBuffer.wrap(text));
            return Arrays.copyOf(bytes.array(), bytes.limit());
        } catch (CharacterCodingException e) {
            throw new UnwritableException(
                    field == null ? "tag" : field.name(),
                    "\"" + text + "\" has a character that " + format.charset() + " lacks");
        }
    }

    /** Takes the tag that tells a type apart, and where it stands from 0. */
    private interface TagSink {
        void put(int start, String tag);
    }

    private static void tag(RecordType of, TagSink sink) {
        if (of.when() instanceof Recognition.Tag tag) {
            sink.put(tag.start() - 1, tag.values().get(0));
        }
    }

    private static UnwritableException tooLong(Field field, String value) {
        return new UnwritableException(field.name(), "\"" + value + "\" does not fit into " + field.room() + " places");
    }

    @Override
    public void close() throws IOException {
        out.close();
    }

    private static int start(Field field) {
        return ((Place.Span) field.place()).start() - 1;
    }
}
