package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Workbook;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.Holds;
import ninepin.core.testing.Holds.Capability;
import ninepin.core.testing.WorkbookText;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Small files with what has to be read from them, written for people: see the README beside the files. Each case gives
 * a layout, the bytes, the records with their offsets and values, and the findings.
 */
class FilesTest {

    private static final Path FOLDER = Path.of("src/test/resources/ninepin/core/check/files");

    record Case(String name, Layout layout, byte[] bytes, List<String> expected) {
        @Override
        public String toString() {
            return name;
        }
    }

    static Stream<Case> cases() throws IOException {
        try (Stream<Path> files = Files.list(FOLDER)) {
            return files
                    .filter(f -> f.toString().endsWith(".txt"))
                    .sorted()
                    .flatMap(FilesTest::casesOf)
                    .toList()
                    .stream();
        }
    }

    private static Stream<Case> casesOf(Path file) {
        List<Case> cases = new ArrayList<>();
        Layout layout = null;
        try {
            String[] parts = ("\n" + Files.readString(file)).split("\n== ");
            for (int i = 1; i < parts.length; i++) {
                String[] lines = parts[i].split("\n");
                String name = file.getFileName() + ": " + lines[0];
                int at = 1;
                StringBuilder json = new StringBuilder();
                while (!lines[at].equals("--")) {
                    json.append(lines[at++]);
                }
                layout = json.isEmpty() ? layout : Definitions.layout(json.toString());
                String label = layout.format().charset().label();
                String charset = label.equals("UTF-16") ? "UTF-16LE" : label;
                ByteArrayOutputStream bytes = new ByteArrayOutputStream();
                List<String> described = new ArrayList<>();
                for (at++; !lines[at].equals("--"); at++) {
                    described.add(lines[at]);
                    bytes.writeBytes(unescaped(lines[at], charset));
                }
                if (layout.format() instanceof Workbook) {
                    bytes.reset();
                    bytes.writeBytes(WorkbookText.bytes(described));
                }
                List<String> expected = new ArrayList<>();
                for (at++; at < lines.length; at++) {
                    if (!lines[at].isBlank()) {
                        expected.add(lines[at].stripTrailing());
                    }
                }
                cases.add(new Case(name, layout, bytes.toByteArray(), expected));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return cases.stream();
    }

    /** A line of a file: {@code \n}, {@code \r}, {@code \t}, {@code \\} and {@code \xHH} stand for bytes, · for a blank. */
    private static byte[] unescaped(String line, String charset) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < line.length(); ) {
            int c = line.codePointAt(i);
            i += Character.charCount(c);
            if (c == '\\') {
                char letter = line.charAt(i++);
                switch (letter) {
                    case 'n' -> out.write('\n');
                    case 'r' -> out.write('\r');
                    case 't' -> out.write('\t');
                    case 'x' -> {
                        out.write(Integer.parseInt(line.substring(i, i + 2), 16));
                        i += 2;
                    }
                    default -> out.write(letter);
                }
            } else {
                out.write((c == '·' ? " " : Character.toString(c)).getBytes(charset));
            }
        }
        return out.toByteArray();
    }

    @Holds(
            value = Capability.READ,
            formats = {"delimited", "fixed-length", "json", "workbook", "xml"})
    @ParameterizedTest(name = "{0}")
    @MethodSource("cases")
    void is_read_as_it_says(Case c) throws IOException {
        assertThat(read(c.layout(), c.bytes())).isEqualTo(c.expected());
    }

    @Test
    void there_are_enough_of_them() throws IOException {
        assertThat(cases().count()).isGreaterThanOrEqualTo(240);
    }

    private static List<String> read(Layout layout, byte[] bytes) throws IOException {
        List<String> out = new ArrayList<>();
        MemorySource source = new MemorySource(Transcripts.text(bytes, layout));
        Opening opening = Formats.open(source, layout);
        if (opening.fault() != null) {
            return List.of("! " + ninepin.core.run.Run.ofOpening(opening).message());
        }
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.of(2026, 11, 23));
        RecordReader reader = opening.reader(source, opening.body());
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (item == RecordReader.Item.BLANK) {
                out.add("blank @" + r.offset());
                continue;
            }
            if (checker.startsDocument(r)) {
                lacking(checker, out);
            }
            Severity worst = checker.check(r);
            if (worst == null || worst == Severity.NOTE) {
                out.add(record(layout, checker, r));
            }
            checker.findings().forEach(f -> out.add("! " + f.message()));
            if (worst == Severity.HALT) {
                return out;
            }
        }
        lacking(checker, out);
        checker.atEnd().forEach(f -> out.add("! " + f.message()));
        return out;
    }

    private static void lacking(RecordChecker checker, List<String> out) {
        Finding lacking = checker.lacking();
        if (lacking != null) {
            out.add("! " + lacking.message());
        }
    }

    private static String record(Layout layout, RecordChecker checker, RawRecord r) {
        RecordType type = layout.recordTypes().get(r.type());
        StringBuilder line = new StringBuilder(type.name() + " @" + r.offset() + "+" + r.length() + ":");
        for (int f = 0; f < type.fields().size(); f++) {
            String value = checker.values()[r.type()][f].text(
                    layout.format().charset().ofValues().charset());
            line.append(f == 0 ? " " : " | ")
                    .append(type.fields().get(f).name())
                    .append('=')
                    .append(
                            value == null
                                    ? "NULL"
                                    : value.replace("\n", "\\n")
                                            .replace("\r", "\\r")
                                            .replace("\t", "\\t")
                                            .replace(" ", "·"));
        }
        return new String(line.toString().getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8);
    }
}
