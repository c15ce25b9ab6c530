package ninepin.core.format.fixedlength;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.RecordType;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class FixedLengthReaderTest {

    /** More than the reader holds at once, so that records lie across the edges of what it holds. */
    private static final int LINES = 20_000;

    @ParameterizedTest
    @EnumSource(
            value = FileCharset.class,
            names = {"UTF_8", "ISO_8859_1", "IBM_037", "IBM_1047"})
    void lines_of_a_large_file_are_read_to_the_last_which_has_no_end(FileCharset charset) throws IOException {
        byte[] end = {(byte) (charset.ascii() ? '\n' : 0x25)};
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        for (int n = 1; n <= LINES; n++) {
            bytes.writeBytes(String.format("%08d%-40s", n, "Tarn End").getBytes(charset.charset()));
            bytes.writeBytes(n < LINES ? end : new byte[0]);
        }
        Layout layout = new Layout(
                "lines",
                null,
                new FixedLength(charset, null, null, 48, false, 0, BlankRows.SKIP),
                List.of(new RecordType("line", List.of(Field.at(1, 8, "no", new DataType.IntegerNumber())))));
        MemorySource source = new MemorySource(bytes.toByteArray());
        Opening opening = Formats.open(source, layout);
        RecordReader reader = opening.reader(source, opening.body());
        for (int n = 1; n <= LINES; n++) {
            assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
            RawRecord record = reader.record();
            assertThat(record.fault()).isNull();
            assertThat(record.length()).isEqualTo(48);
            assertThat(new String(record.buffer(), record.start(), 8, charset.charset()))
                    .isEqualTo(String.format("%08d", n));
        }
        assertThat(reader.next()).isEqualTo(RecordReader.Item.END);
    }

    /** Blanks are 0x20, and so is a byte of a number; a block of them may be a record. */
    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void a_block_with_a_binary_number_is_never_blank(boolean binary) throws IOException {
        DataType number = binary
                ? new DataType.IntegerNumber(new NumberForm(NumberForm.Written.BINARY, null, false))
                : new DataType.CharacterVarying(2);
        Layout layout = new Layout(
                "blocks",
                null,
                new FixedLength(FileCharset.ISO_8859_1, 6, FixedLength.Units.BYTES, null, false, 0, BlankRows.SKIP),
                List.of(new RecordType(
                        "block",
                        List.of(
                                Field.at(1, 4, "name", new DataType.CharacterVarying(4)),
                                Field.at(5, 2, "cells", number)))));
        MemorySource source = new MemorySource("Tarn\0\7          \t\t".getBytes(StandardCharsets.ISO_8859_1));
        Opening opening = Formats.open(source, layout);
        RecordReader reader = opening.reader(source, opening.body());
        RecordReader.Item behind = binary ? RecordReader.Item.RECORD : RecordReader.Item.BLANK;
        assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
        assertThat(reader.next()).isEqualTo(behind);
        assertThat(reader.next()).isEqualTo(behind);
        assertThat(reader.next()).isEqualTo(RecordReader.Item.END);
    }
}
