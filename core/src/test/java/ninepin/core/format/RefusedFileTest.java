package ninepin.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Records taken out of their file are read the same in a file of their own, in each kind of file. */
class RefusedFileTest {

    private static final String FIELDS =
            "\"fields\":[{\"name\":\"farm\",PLACE1,\"type\":{\"is\":\"integer\"},\"checks\":[{\"rule\":\"required\",\"severity\":\"reject\"}]},"
                    + "{\"name\":\"milk\",PLACE2,\"type\":{\"is\":\"text\",\"length\":4}}]";

    private static String fields(String first, String second) {
        return FIELDS.replace("PLACE1", first).replace("PLACE2", second);
    }

    private static String layout(String kind) {
        return switch (kind) {
            case "delimited" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"delimited\",\"delimiter\":\";\",\"header\":true,\"skipLines\":1,"
                        + "\"habits\":{\"footerLines\":1}},\"recordTypes\":[{\"name\":\"r\","
                        + fields("\"header\":\"Farm\"", "\"header\":\"Milk\"")
                        + "}]}";
            case "utf-16" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"delimited\",\"charset\":\"UTF-16\",\"delimiter\":\";\",\"header\":true},"
                        + "\"recordTypes\":[{\"name\":\"r\"," + fields("\"header\":\"Farm\"", "\"header\":\"Milk\"")
                        + "}]}";
            case "fixed" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"fixed-length\",\"length\":8},\"recordTypes\":["
                        + "{\"name\":\"h\",\"when\":{\"by\":\"first-line\"},\"min\":1,\"max\":1,\"fields\":[{\"name\":\"day\",\"start\":1,\"length\":8,\"type\":{\"is\":\"text\",\"length\":8}}]},"
                        + "{\"name\":\"r\",\"when\":{\"by\":\"tag\",\"start\":1,\"values\":[\"R\"]},\"min\":1,"
                        + fields("\"start\":2,\"length\":3", "\"start\":5,\"length\":4") + "},"
                        + "{\"name\":\"t\",\"when\":{\"by\":\"last-line\"},\"min\":1,\"max\":1,\"fields\":[{\"name\":\"count\",\"start\":1,\"length\":8,\"type\":{\"is\":\"integer\"}}]}],"
                        + "\"fileChecks\":[{\"rule\":\"count\",\"field\":\"t.count\",\"of\":\"r\",\"severity\":\"halt\"}]}";
            default ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"xml\",\"namespaces\":{\"m\":\"urn:milk\"}},\"recordTypes\":[{\"name\":\"r\","
                        + "\"when\":{\"by\":\"path\",\"path\":\"/m:all/m:part/m:r\"},\"min\":1,"
                        + fields("\"path\":\"@farm\"", "\"path\":\"m:milk\"") + "}]}";
        };
    }

    private static final String ELEMENTS =
            """
            <all xmlns="urn:milk"><!-- the prefix is the layout's, not the file's: Söllbridge -->
            <part><r farm="7"><milk>low</milk></r><r farm="x"><milk>h&amp;ö</milk></r><r farm="9"><milk>mäd</milk></r></part></all>
            """;

    private static byte[] file(String kind) {
        return switch (kind) {
            case "delimited" ->
                "written on Monday\nFarm;Milk\n7;low\nx;high\n9;mid\nthe end\n".getBytes(StandardCharsets.UTF_8);
            case "utf-16" -> "\ufeffFarm;Milk\r\n7;low\r\nx;höh\r\n9;mid\r\n".getBytes(StandardCharsets.UTF_16LE);
            case "fixed" ->
                "20261123\r\nR007low \r\nR00xhigh\r\nR009mid \r\n00000003\r\n".getBytes(StandardCharsets.UTF_8);
            case "xml of ISO-8859-1" ->
                ("<?xml version='1.0' encoding='ISO-8859-1'?>\n" + ELEMENTS).getBytes(StandardCharsets.ISO_8859_1);
            case "xml of UTF-16" -> ("\ufeff" + ELEMENTS).getBytes(StandardCharsets.UTF_16LE);
            default -> ("<?xml version='1.0'?>\n" + ELEMENTS).getBytes(StandardCharsets.UTF_8);
        };
    }

    private record Read(byte[] raw, String values) {}

    private static List<Read> read(byte[] file, Layout layout) throws IOException {
        MemorySource source = new MemorySource(file);
        Opening opening = Formats.open(source, layout);
        assertThat(opening.fault()).isNull();
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.EPOCH);
        Charset charset = layout.format().charset().ofValues().charset();
        List<Read> all = new ArrayList<>();
        try (RecordReader reader = opening.reader(source, opening.body())) {
            RecordReader.Item item;
            while ((item = reader.next()) != RecordReader.Item.END) {
                if (item == RecordReader.Item.RECORD) {
                    checker.check(reader.record());
                    StringBuilder values = new StringBuilder();
                    for (var value : checker.values()[reader.record().type()]) {
                        values.append(value.text(charset)).append('|');
                    }
                    checker.findings().forEach(f -> values.append(f.code()));
                    all.add(new Read(reader.record().fileBytes(), values.toString()));
                }
            }
        }
        return all;
    }

    @ParameterizedTest
    @CsvSource({"delimited, 0", "utf-16, 0", "fixed, 1", "xml, 0", "xml of ISO-8859-1, 0", "xml of UTF-16, 0"})
    void records_are_read_the_same_in_a_file_of_their_own(String kind, int first) throws IOException {
        Layout layout = Definitions.layout(layout(kind));
        byte[] file = file(kind);
        List<Read> original = read(file, layout);
        Read bad = original.get(first + 1);
        Read good = original.get(first + 2);
        assertThat(bad.values()).contains("NUM-01");
        // What is kept of XML reads the same, whatever the file was written in.
        assertThat(new String(bad.raw(), Formats.of(layout).keptCharset()))
                .contains(kind.startsWith("xml") ? "h&amp;ö" : "x");

        for (MemorySource source : new MemorySource[] {new MemorySource(file), null}) {
            byte[] own = RefusedFile.like(layout, source).of(List.of(bad.raw(), good.raw()));
            if (kind.startsWith("xml") && source == null) {
                // The file's own prefixes are gone with its head; those of the layout stand in for them.
                own = new String(own, StandardCharsets.UTF_8)
                        .replace("<r ", "<m:r ")
                        .replace("</r>", "</m:r>")
                        .replace("milk>", "m:milk>")
                        .getBytes(StandardCharsets.UTF_8);
            }
            assertThat(read(own, RefusedFile.layout(layout)))
                    .as("%s, %s its file", kind, source == null ? "without" : "with")
                    .extracting(Read::values)
                    .containsExactly(bad.values(), good.values());
        }
    }
}
