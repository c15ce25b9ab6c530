package ninepin.core.format.json;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.layout.Format;
import ninepin.core.layout.Json;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.Layout;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.RejectForm;
import ninepin.core.record.WriteStyle;

/** JSON files: a value a file, or one a line. */
public final class JsonSupport implements FormatSupport {

    private static final Pattern LITERAL =
            Pattern.compile("true|false|null|-?(?:0|[1-9]\\d*)(?:\\.\\d+)?(?:[eE][+-]?\\d+)?");

    private final Layout layout;
    private final Json format;

    public JsonSupport(Layout layout, Json format) {
        this.layout = layout;
        this.format = format;
    }

    @Override
    public String ending() {
        return format.lines() ? ".jsonl" : ".json";
    }

    @Override
    public String mediaType() {
        return format.lines() ? "application/jsonl" : "application/json";
    }

    @Override
    public Opening open(ByteSource source) throws IOException {
        return JsonOpening.of(source, layout);
    }

    @Override
    public RecordWriter writer(OutputStream out, WriteStyle style) throws IOException {
        return new JsonWriter(out, layout, style, "");
    }

    @Override
    public RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException {
        return new JsonWriter(out, layout, style, state);
    }

    @Override
    public Charset charset(ByteSource source) {
        return StandardCharsets.UTF_8;
    }

    @Override
    public Optional<String> unsortable() {
        return Optional.of("values of a JSON file");
    }

    @Override
    public boolean nests() {
        return true;
    }

    @Override
    public Charset keptCharset() {
        return StandardCharsets.UTF_8;
    }

    /** Elements of one array, but for lines, of which each is a value of its own. */
    @Override
    public String recordEnd(String usual) {
        return around().isEmpty() ? usual : "," + usual;
    }

    /** Records are put behind each other, each with its comma. */
    @Override
    public Format ofParts() {
        return new Json(format.lines(), true, format.blankRows(), format.withoutNulls());
    }

    @Override
    public Frame frame(ByteSource original) {
        return new Frame(bytes(opening()), bytes(closing()), StandardCharsets.UTF_8);
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private List<JsonPath.Step> around() {
        List<JsonPath.Step> steps = JsonPlaces.pathOf(layout.firstType()).steps();
        return format.lines() ? List.of() : steps;
    }

    /** What stands before records of the first type. */
    private String opening() {
        StringBuilder text = new StringBuilder();
        for (JsonPath.Step step : around()) {
            text.append(step instanceof JsonPath.Member member ? "{\"" + JsonText.escaped(member.name()) + "\":" : "[");
        }
        return text.toString();
    }

    private String closing() {
        List<String> brackets = new ArrayList<>();
        for (JsonPath.Step step : around()) {
            brackets.add(0, step instanceof JsonPath.Member ? "}" : "]");
        }
        return String.join("", brackets);
    }

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** The reason stands in the record, as a member that no field takes; a record that is no object stands without. */
    private final class Rejects implements RejectForm {

        private boolean any;

        @Override
        public byte[] begin(ByteSource original) {
            return bytes(opening());
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            String text = new String(record, StandardCharsets.UTF_8).strip();
            String with = text;
            if (text.startsWith("{")) {
                boolean empty = text.substring(1).stripLeading().startsWith("}");
                with = "{\"rejected because\":\"" + JsonText.escaped(reason) + '"' + (empty ? "" : ",")
                        + text.substring(1);
            }
            String before = format.lines() ? "" : any ? ",\n" : "\n";
            any = true;
            return Bytes.joined(bytes(before), bytes(with), bytes(format.lines() ? "\n" : ""));
        }

        @Override
        public byte[] end() {
            return bytes(format.lines() ? "" : "\n" + closing() + "\n");
        }

        /** Between quotes escapes stay as they are; what stands without quotes gets some where it has to. */
        @Override
        public String placed(String record, int from, String value) {
            if (from > 0 && record.startsWith("\"", from - 1)) {
                return JsonText.mended(value);
            }
            return LITERAL.matcher(value).matches() ? value : '"' + JsonText.mended(value) + '"';
        }
    }
}
