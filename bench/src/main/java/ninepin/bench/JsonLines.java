package ninepin.bench;

import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import tools.jackson.core.JsonParser;
import tools.jackson.core.json.JsonFactory;

/** Reading: the eight fields as JSON Lines, numbers as numbers, and what they are measured against. */
final class JsonLines {

    private JsonLines() {}

    /** Writes the rows of the delimited file as JSON Lines. */
    static void write(Path delimited, Path json) throws IOException {
        List<Field> fields = EightFields.layout().firstType().fields();
        try (BufferedReader in = Files.newBufferedReader(delimited);
                BufferedWriter out = Files.newBufferedWriter(json)) {
            in.readLine();
            String row;
            while ((row = in.readLine()) != null) {
                String[] values = row.split(";", -1);
                for (int f = 0; f < values.length; f++) {
                    out.write((f == 0 ? "{\"" : ",\"") + fields.get(f).name() + "\":");
                    out.write(written(values[f], fields.get(f).type()));
                }
                out.write("}\n");
            }
        }
    }

    private static String written(String value, DataType type) {
        if (value.isEmpty()) {
            return "null";
        }
        return type instanceof DataType.IntegerNumber || type instanceof DataType.Decimal
                ? value.replace(',', '.')
                : '"' + value + '"';
    }

    /** The layout of the eight fields, with the same types and checks. */
    static Layout layout() {
        List<Field> fields = EightFields.layout().firstType().fields().stream()
                .map(f -> new Field(
                        f.name(),
                        new Place.JsonPath(f.name()),
                        f.type() instanceof DataType.Decimal d
                                ? new DataType.Decimal(d.precision(), d.scale(), '.', null)
                                : f.type(),
                        f.checks()))
                .toList();
        return new Layout(
                "json-lines",
                null,
                new Json(true, false, null),
                List.of(new RecordType("row", new Recognition.JsonPath("$"), null, null, null, fields)));
    }

    /** Passes over the tokens of a file with a bare parser; the nanoseconds it took. */
    static long tokens(Path file) throws IOException {
        long begun = System.nanoTime();
        long tokens = 0;
        try (JsonParser parser = new JsonFactory().createParser(Files.newInputStream(file))) {
            while (parser.nextToken() != null) {
                tokens++;
            }
        }
        if (tokens == 0) {
            throw new IllegalStateException("no tokens in " + file);
        }
        return System.nanoTime() - begun;
    }
}
