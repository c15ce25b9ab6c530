package ninepin.core.format.xml;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.format.Proposals;
import ninepin.core.format.xml.proposer.ElementTree;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.Reading;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Nothing of an XML file is held that is larger than a line of another file may be. */
class XmlLimitsTest {

    private static final long SIZE = RecordReader.MAX_RECORD_BYTES + (1L << 20);

    private static final Layout LAYOUT = new Layout(
            "x",
            null,
            new Xml(Map.of()),
            List.of(new RecordType(
                    "r",
                    new Recognition.Path("/all/r"),
                    null,
                    null,
                    null,
                    List.of(Field.atPath("v", "v", new DataType.CharacterVarying(1_000_000))))));

    /** A file with the same byte very many times in its middle. */
    private record Filled(byte[] head, byte fill, byte[] tail) implements ByteSource {

        @Override
        public long size() {
            return head.length + SIZE + tail.length;
        }

        @Override
        public int read(long offset, byte[] into, int from, int length) {
            int n = (int) Math.min(length, size() - offset);
            for (int i = 0; i < n; i++) {
                long at = offset + i;
                into[from + i] = at < head.length
                        ? head[(int) at]
                        : at < head.length + SIZE ? fill : tail[(int) (at - head.length - SIZE)];
            }
            return n <= 0 ? -1 : n;
        }

        @Override
        public void close() {
            // Nothing is open.
        }
    }

    private static InputStream stream(ByteSource source) {
        return new InputStream() {
            private long at;

            @Override
            public int read() throws IOException {
                byte[] one = new byte[1];
                return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
            }

            @Override
            public int read(byte[] into, int from, int length) throws IOException {
                int n = source.read(at, into, from, length);
                at += Math.max(0, n);
                return n;
            }
        };
    }

    @ParameterizedTest
    @CsvSource({
        "<all><r><v>, x, </v></r></all>",
        "<all><r><v><![CDATA[, x, ]]></v></r></all>",
        "<all><r><!--, x, --><v>1</v></r></all>",
        "<!--, x, --><all><r><v>1</v></r></all>",
        "<all><r><v>1</v></r><!--, x, --><r><v>2</v></r></all>",
        "<all><?x , x, ?><r><v>1</v></r></all>",
        "<all><r><w>, x, </w><v>1</v></r></all>",
        "<all><, x, /></all>",
        "<all><r k='1', ' ', /></all>"
    })
    void what_is_too_large_ends_the_file_with_a_finding(String head, char fill, String tail) throws IOException {
        Filled file =
                new Filled(head.getBytes(StandardCharsets.UTF_8), (byte) fill, tail.getBytes(StandardCharsets.UTF_8));
        Opening opening = Formats.open(file, LAYOUT);
        RecordChecker checker = new RecordChecker(LAYOUT, opening, Reading.TODAY);
        RecordReader reader = opening.reader(file, opening.body());
        String last = null;
        while (reader.next() != RecordReader.Item.END) {
            checker.check(reader.record());
            last = checker.findings().isEmpty()
                    ? "good"
                    : checker.findings().get(0).code();
        }
        assertThat(last).isEqualTo("XML-05");
        assertThat(Proposals.of(file, "x", null).layout().recordTypes()).isNotEmpty();
        assertThat(ElementTree.of(stream(file), Map.of(), 1 << 20).whole()).isFalse();
    }
}
