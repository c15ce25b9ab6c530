package ninepin.bench;

import com.ctc.wstx.stax.WstxInputFactory;
import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.YearMonth;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.bytes.FileSource;
import ninepin.core.check.WholeFile;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.standins.FarmRegister;
import ninepin.standins.TankerCollections;

/** Reading: files of the other kinds, in the layouts of the demo, and what they are measured against. */
final class OtherKinds {

    private static final int STOPS = 20;

    private OtherKinds() {}

    /** Tanker collections: about so many lines of 80 columns; how many exactly. */
    static long writeFixed(Path file, int rows) throws IOException {
        int rounds = Math.max(1, rows / (1 + STOPS));
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16)) {
            new TankerCollections(1, TankerCollections.Mistake.NONE)
                    .write(7, LocalDate.of(2026, 11, 23), 1, rounds, STOPS, out);
        }
        return 2 + rounds * (1L + STOPS);
    }

    /** The farm register: so many farms with one or two herds each; how many of both. */
    static long writeXml(Path file, int farms) throws IOException {
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 16)) {
            return new FarmRegister(1, false).write(YearMonth.of(2026, 11), farms, out);
        }
    }

    /** A layout of the demo; the total of a million collections needs a tenth digit. */
    static Layout layout(String name) throws IOException {
        String text = Files.readString(Path.of("demo", name + ".layout.json"));
        return Definitions.layout(text.replace("\"start\": 8, \"length\": 9", "\"start\": 8, \"length\": 10"));
    }

    /** Reads, types and checks a file, in which so many records have nothing worse than a note; the nanoseconds it took. */
    static long check(Path file, Layout layout, long expected) throws IOException {
        long begun = System.nanoTime();
        WholeFile.Summary whole =
                new WholeFile(() -> FileSource.open(file), layout, LocalDate.EPOCH, () -> false).check();
        long good = whole.records() - whole.refused();
        if (good != expected || whole.halt() != null) {
            throw new IllegalStateException("A measure is not valid: " + good + " good records, not " + expected
                    + ", in " + file + ": " + whole.halt());
        }
        return System.nanoTime() - begun;
    }

    /** Iterates the lines of a file as strings. */
    static long lines(Path file) throws IOException {
        long begun = System.nanoTime();
        long characters = 0;
        try (BufferedReader reader = Files.newBufferedReader(file, StandardCharsets.ISO_8859_1)) {
            String line;
            while ((line = reader.readLine()) != null) {
                characters += line.length();
            }
        }
        if (characters == 0) {
            throw new IllegalStateException("no lines in " + file);
        }
        return System.nanoTime() - begun;
    }

    /** Passes over a file with a bare cursor. */
    static long cursor(Path file) throws IOException, XMLStreamException {
        long begun = System.nanoTime();
        XMLInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        try (InputStream in = Files.newInputStream(file)) {
            XMLStreamReader reader = factory.createXMLStreamReader(in);
            while (reader.hasNext()) {
                reader.next();
            }
        }
        return System.nanoTime() - begun;
    }
}
