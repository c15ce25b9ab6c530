package ninepin.core.job;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.codes.CodeList;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.document.DocumentCheck;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Format;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.Shown;
import ninepin.core.layout.Workbook;
import ninepin.core.layout.Xml;
import ninepin.core.lookup.LookUp;
import ninepin.core.pickup.From;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Touch;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.exc.StreamReadException;
import tools.jackson.core.util.DefaultIndenter;
import tools.jackson.core.util.DefaultPrettyPrinter;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.annotation.JsonAppend;
import tools.jackson.databind.exc.InvalidFormatException;
import tools.jackson.databind.exc.InvalidTypeIdException;
import tools.jackson.databind.exc.UnrecognizedPropertyException;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;

/**
 * Jobs and layouts as JSON: a stable order of keys, no ids of a database, unknown keys refused. The forms are
 * described by the schemas in {@code docs/schema}. How a type is written is said here and not in the model.
 */
public final class Definitions {

    private static final JsonMapper JSON = JsonMapper.builder()
            .disable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(SerializationFeature.INDENT_OUTPUT)
            .changeDefaultPropertyInclusion(v -> v.withValueInclusion(JsonInclude.Include.NON_NULL))
            .withConfigOverride(
                    List.class,
                    o -> o.setInclude(
                            JsonInclude.Value.construct(JsonInclude.Include.NON_EMPTY, JsonInclude.Include.ALWAYS)))
            .addMixIn(Destination.class, DestinationForm.class)
            .addMixIn(Format.class, FormatForm.class)
            .addMixIn(From.class, FromForm.class)
            .addMixIn(Job.class, JobForm.class)
            .addMixIn(Field.class, FieldForm.Mixed.class)
            .addMixIn(DataType.class, TypeForm.class)
            .addMixIn(Check.class, CheckForm.class)
            .addMixIn(Recognition.class, RecognitionForm.class)
            .addMixIn(FileCheck.class, FileCheckForm.class)
            .addMixIn(Origin.class, OriginForm.class)
            .addMixIn(Touch.class, TouchForm.class)
            .addModule(new SimpleModule().addDeserializer(Touch.class, new TouchReader()))
            .addMixIn(DocumentCheck.class, DocumentCheckForm.class)
            .addMixIn(LookUp.From.class, LookUpForm.class)
            .defaultPrettyPrinter(new DefaultPrettyPrinter().withArrayIndenter(new DefaultIndenter("  ", "\n")))
            .build();

    private Definitions() {}

    /** The mapper that writes definitions this way, for those who embed them in other documents. */
    public static JsonMapper mapper() {
        return JSON;
    }

    /** Reads a job. */
    public static Job job(String json) {
        return read(Upgrades.job(json), Job.class);
    }

    /** Reads a layout. */
    public static Layout layout(String json) {
        return read(json, Layout.class);
    }

    /** Reads a code list. */
    public static CodeList codeList(String json) {
        return read(json, CodeList.class);
    }

    /** Writes a job, a layout or a code list. */
    public static String write(Object definition) {
        return JSON.writeValueAsString(definition) + "\n";
    }

    /** The kind under which a format stands in a layout, such as {@code fixed-length}. */
    public static String kindOfFormat(Class<?> format) {
        return Arrays.stream(FormatForm.class.getAnnotation(JsonSubTypes.class).value())
                .filter(kind -> kind.value() == format)
                .findFirst()
                .orElseThrow()
                .name();
    }

    /** Reads a definition of another kind. */
    public static <T> T read(String json, Class<T> type) {
        try {
            T definition = JSON.readValue(json, type);
            if (definition == null) {
                throw new DefinitionException("JSON", "is null, where a definition is expected");
            }
            return definition;
        } catch (JacksonException e) {
            throw explain(e);
        }
    }

    /** What is wrong with a definition that could not be read, with its place. */
    public static DefinitionException explain(JacksonException e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof DefinitionException definition) {
                return definition;
            }
        }
        String place = e instanceof DatabindException d ? place(d) : "JSON";
        String at = e.getLocation() == null
                ? ""
                : " (line " + e.getLocation().getLineNr() + ", column "
                        + e.getLocation().getColumnNr() + ")";
        return new DefinitionException(place, words(e) + at);
    }

    /** Where it is, such as {@code deliveries[0].to.table}. */
    private static String place(DatabindException e) {
        StringBuilder place = new StringBuilder();
        for (JacksonException.Reference part : e.getPath()) {
            if (part.getPropertyName() == null) {
                place.append('[').append(part.getIndex()).append(']');
            } else {
                place.append(place.isEmpty() ? "" : ".").append(part.getPropertyName());
            }
        }
        return place.isEmpty() ? "JSON" : place.toString();
    }

    /** What is wrong, without the names of classes that Jackson tells. */
    private static String words(JacksonException e) {
        if (e instanceof UnrecognizedPropertyException unknown) {
            return "there is no part named " + Shown.quoted(unknown.getPropertyName());
        }
        if (e instanceof InvalidTypeIdException kind) {
            return kind.getTypeId() == null
                    ? "it does not say of which kind it is"
                    : Shown.quoted(kind.getTypeId()) + " is no kind of it";
        }
        if (e instanceof InvalidFormatException format) {
            Class<?> type = format.getTargetType();
            String known = type != null && type.isEnum()
                    ? "; known are "
                            + Arrays.stream(type.getEnumConstants())
                                    .map(String::valueOf)
                                    .collect(Collectors.joining(", "))
                    : "";
            return Shown.quoted(String.valueOf(format.getValue())) + " does not fit here" + known;
        }
        if (e instanceof StreamReadException) {
            // About the text alone.
            return String.valueOf(e.getOriginalMessage()).lines().findFirst().orElse("it is no JSON");
        }
        return String.valueOf(e.getOriginalMessage()).startsWith("Cannot map `null`")
                ? "it is missing"
                : "it is not of the shape that is expected here";
    }

    /** The version is written first; what is read has been brought to it. */
    @JsonIgnoreProperties(value = "schemaVersion", allowGetters = true)
    @JsonAppend(
            prepend = true,
            props = @JsonAppend.Prop(name = "schemaVersion", value = VersionOfJob.class, type = Integer.class))
    private interface JobForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = From.Folder.class, name = "folder"),
        @JsonSubTypes.Type(value = From.Query.class, name = "query")
    })
    private interface FromForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Delimited.class, name = "delimited"),
        @JsonSubTypes.Type(value = FixedLength.class, name = "fixed-length"),
        @JsonSubTypes.Type(value = Json.class, name = "json"),
        @JsonSubTypes.Type(value = Workbook.class, name = "workbook"),
        @JsonSubTypes.Type(value = Xml.class, name = "xml")
    })
    private interface FormatForm {}

    @JsonTypeInfo(
            use = JsonTypeInfo.Id.NAME,
            include = JsonTypeInfo.As.EXISTING_PROPERTY,
            property = "kind",
            defaultImpl = TableDelivery.class)
    @JsonSubTypes({
        @JsonSubTypes.Type(value = TableDelivery.class, name = "table"),
        @JsonSubTypes.Type(value = ApplicationDelivery.class, name = "application"),
        @JsonSubTypes.Type(value = FileDelivery.class, name = "file")
    })
    private interface DestinationForm {
        @JsonProperty("kind")
        String kind();
    }

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "is")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = DataType.CharacterVarying.class, name = "text"),
        @JsonSubTypes.Type(value = DataType.IntegerNumber.class, name = "integer"),
        @JsonSubTypes.Type(value = DataType.Decimal.class, name = "decimal"),
        @JsonSubTypes.Type(value = DataType.Bool.class, name = "boolean"),
        @JsonSubTypes.Type(value = DataType.Date.class, name = "date"),
        @JsonSubTypes.Type(value = DataType.Time.class, name = "time"),
        @JsonSubTypes.Type(value = DataType.Timestamp.class, name = "timestamp")
    })
    private interface TypeForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "by")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Recognition.Tag.class, name = "tag"),
        @JsonSubTypes.Type(value = Recognition.FirstLine.class, name = "first-line"),
        @JsonSubTypes.Type(value = Recognition.LastLine.class, name = "last-line"),
        @JsonSubTypes.Type(value = Recognition.JsonPath.class, name = "json"),
        @JsonSubTypes.Type(value = Recognition.Path.class, name = "path"),
        @JsonSubTypes.Type(value = Recognition.Rows.class, name = "rows")
    })
    private interface RecognitionForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "rule")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = FileCheck.Count.class, name = "count"),
        @JsonSubTypes.Type(value = FileCheck.Total.class, name = "total"),
        @JsonSubTypes.Type(value = FileCheck.Sequence.class, name = "sequence"),
        @JsonSubTypes.Type(value = FileCheck.Records.class, name = "records"),
        @JsonSubTypes.Type(value = FileCheck.Same.class, name = "same"),
        @JsonSubTypes.Type(value = FileCheck.NotOlder.class, name = "not-older")
    })
    private interface FileCheckForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "rule")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Check.Required.class, name = "required"),
        @JsonSubTypes.Type(value = Check.Present.class, name = "present"),
        @JsonSubTypes.Type(value = Check.TypeFits.class, name = "type"),
        @JsonSubTypes.Type(value = Check.Length.class, name = "length"),
        @JsonSubTypes.Type(value = Check.Range.class, name = "range"),
        @JsonSubTypes.Type(value = Check.Matches.class, name = "pattern"),
        @JsonSubTypes.Type(value = Check.OneOf.class, name = "one-of"),
        @JsonSubTypes.Type(value = Check.Unique.class, name = "unique")
    })
    private interface CheckForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "from")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = Origin.OfField.class, name = "field"),
        @JsonSubTypes.Type(value = Origin.OfFormula.class, name = "formula"),
        @JsonSubTypes.Type(value = Origin.Constant.class, name = "constant"),
        @JsonSubTypes.Type(value = Origin.OfCode.class, name = "code"),
        @JsonSubTypes.Type(value = Origin.Joined.class, name = "joined"),
        @JsonSubTypes.Type(value = Origin.Part.class, name = "part"),
        @JsonSubTypes.Type(value = Origin.Amount.class, name = "amount"),
        @JsonSubTypes.Type(value = Origin.Drawn.class, name = "sequence"),
        @JsonSubTypes.Type(value = Origin.OfKey.class, name = "key"),
        @JsonSubTypes.Type(value = Origin.TargetDefault.class, name = "default"),
        @JsonSubTypes.Type(value = Origin.OfRun.class, name = "run"),
        @JsonSubTypes.Type(value = Origin.Asked.class, name = "asked")
    })
    private interface OriginForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "rule")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = DocumentCheck.SumIsZero.class, name = "sum-is-zero"),
        @JsonSubTypes.Type(value = DocumentCheck.SumEquals.class, name = "sum-equals"),
        @JsonSubTypes.Type(value = DocumentCheck.Count.class, name = "count"),
        @JsonSubTypes.Type(value = DocumentCheck.Same.class, name = "same"),
        @JsonSubTypes.Type(value = DocumentCheck.Holds.class, name = "holds")
    })
    private interface DocumentCheckForm {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "in")
    @JsonSubTypes({
        @JsonSubTypes.Type(value = LookUp.InTable.class, name = "table"),
        @JsonSubTypes.Type(value = LookUp.InFile.class, name = "file")
    })
    private interface LookUpForm {}

    private interface TouchForm {
        @JsonProperty("do")
        Touch.Kind does();
    }

    /** Reads a touch; one that needs to know nothing may be its name alone. */
    private static final class TouchReader extends ValueDeserializer<Touch> {

        private record Parts(@JsonProperty("do") Touch.Kind does, Integer to, String with) {}

        @Override
        public Touch deserialize(JsonParser parser, DeserializationContext context) {
            if (parser.currentToken() == JsonToken.VALUE_STRING) {
                return Touch.of(context.readValue(parser, Touch.Kind.class));
            }
            Parts parts = context.readValue(parser, Parts.class);
            return new Touch(parts.does(), parts.to(), parts.with());
        }
    }
}
