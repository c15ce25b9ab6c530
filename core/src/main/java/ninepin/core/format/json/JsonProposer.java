package ninepin.core.format.json;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.infer.DistinctNames;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Samples;
import ninepin.core.infer.TreeGuess;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.JsonPath.Step;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.json.JsonFactory;

/**
 * A JSON layout: record types are the elements of arrays, and the document itself where values stand in it; their fields are the
 * values that stand once in them.
 */
public final class JsonProposer {

    private static final int MOST_VALUES = 50_000;
    /** The most places that are told apart. */
    private static final int MOST_PLACES = 3_000;

    private static final JsonFactory JSON = new JsonFactory();

    /** A place of the document, all values that stand there taken together. */
    private static final class Place {
        final Place parent;
        /** The name of the member; null of an element, and of the document. */
        final String name;

        final Map<String, Place> members = new LinkedHashMap<>();
        final List<String> texts = new ArrayList<>();
        Place element;
        int count;

        Place(Place parent, String name) {
            this.parent = parent;
            this.name = name;
        }

        boolean isElement() {
            return name == null && parent != null;
        }

        /** Whether values stand here that are no objects and arrays. */
        boolean isPlain() {
            return texts.stream().anyMatch(t -> !t.isEmpty()) || members.isEmpty() && element == null;
        }

        List<Step> steps() {
            List<Step> steps = parent == null ? new ArrayList<>() : parent.steps();
            if (parent != null) {
                steps.add(name == null ? new JsonPath.Each() : new JsonPath.Member(name));
            }
            return steps;
        }

        String path() {
            return "$" + new JsonPath(steps()).text();
        }

        /** The names on the way here, as {@link DistinctNames} takes them. */
        String words() {
            String around = parent == null ? "" : parent.words();
            return name == null ? around : around + "/" + name.replace('/', ' ');
        }
    }

    /** A place that becomes a record type, and the one around it. */
    private record Found(Place of, Found parent) {}

    private final List<ByteSource> samples;
    private final Place root = new Place(null, null);
    private final List<Guess> guesses = new ArrayList<>();
    private boolean lines;
    private int places;

    private JsonProposer(List<ByteSource> samples) {
        this.samples = samples;
    }

    /** A layout of JSON files; empty where the first sample does not begin with an object or an array. */
    public static Optional<Proposal> propose(Samples samples) throws IOException {
        int first = firstByte(samples.first());
        return (first == '{' || first == '[') && looksLikeJson(samples.first())
                ? new JsonProposer(samples.files()).proposed(samples)
                : Optional.empty();
    }

    private static int firstByte(byte[] bytes) {
        int i = bytes.length > 2 && (bytes[0] & 0xff) == 0xef ? 3 : 0;
        while (i < bytes.length && (bytes[i] == ' ' || bytes[i] == '\n' || bytes[i] == '\r' || bytes[i] == '\t')) {
            i++;
        }
        return i < bytes.length ? bytes[i] : -1;
    }

    /** A bracket may begin other files too: what stands behind it tells. */
    private static boolean looksLikeJson(byte[] bytes) {
        try (JsonParser parser = JSON.createParser(ObjectReadContext.empty(), bytes)) {
            parser.nextToken();
            return parser.nextToken() != null;
        } catch (JacksonException e) {
            return false;
        }
    }

    private Optional<Proposal> proposed(Samples from) throws IOException {
        for (ByteSource sample : samples) {
            if (!read(sample)) {
                return Optional.empty();
            }
        }
        guesses.add(
                0,
                new Guess(
                        "kind",
                        lines ? "JSON Lines" : "JSON",
                        Sureness.SURE,
                        lines ? "Each line is a JSON value." : "It begins with an object or an array."));
        List<Found> found = new ArrayList<>();
        Found around = document();
        if (around != null) {
            found.add(around);
        }
        collect(root, around, found);
        if (found.isEmpty()) {
            found.add(new Found(root, null));
        }
        if (places > MOST_PLACES) {
            guesses.add(new Guess(
                    "left out",
                    "places behind the first " + MOST_PLACES,
                    Sureness.SURE,
                    "So many different ones are told apart."));
        }
        return Optional.of(proposal(from, found));
    }

    private Proposal proposal(Samples from, List<Found> found) {
        List<String> names = DistinctNames.of(found.stream()
                .map(f -> f.of.words().isEmpty() ? "/record" : f.of.words())
                .toList());
        guesses.add(new Guess(
                "record types",
                String.join(", ", names),
                found.stream().anyMatch(f -> f.of.isElement()) ? Sureness.LIKELY : Sureness.UNSURE,
                found.get(0).of == root && !lines
                        ? "The document itself, and the elements of its arrays."
                        : lines
                                ? "The lines, and the elements of arrays in them."
                                : "They are the elements of arrays."));
        List<RecordType> types = new ArrayList<>();
        List<List<FieldGuess>> fields = new ArrayList<>();
        for (Found one : found) {
            List<FieldGuess> guessed = fields(one.of, names.get(types.size()));
            fields.add(guessed);
            types.add(new RecordType(
                    names.get(types.size()),
                    new Recognition.JsonPath(one.of.path()),
                    one.parent == null ? null : names.get(found.indexOf(one.parent)),
                    null,
                    null,
                    guessed.stream().map(FieldGuess::field).toList()));
        }
        return FieldGuess.proposal(
                new Layout(from.name(), from.title(), new Json(lines, false, null), types), guesses, fields);
    }

    /** The document as a record type, where values stand once around records; else null. */
    private Found document() {
        Map<String, List<String>> values = new LinkedHashMap<>();
        gather(root, List.of(), values);
        if (lines) {
            return new Found(root, null);
        }
        if (values.isEmpty() || elements(root) == 0) {
            return null;
        }
        boolean list = !samples.stream().allMatch(Samples::isWhole)
                || elements(root) > TreeGuess.MOST_OF_DOCUMENT * (long) samples.size();
        if (list) {
            guesses.add(TreeGuess.aroundList(values.keySet(), "$"));
            return null;
        }
        guesses.add(TreeGuess.oneDocument("record"));
        return new Found(root, null);
    }

    /** How many elements stand in arrays that stand in no element. */
    private static long elements(Place place) {
        long of = place.element == null ? 0 : place.element.count;
        return of
                + place.members.values().stream()
                        .mapToLong(JsonProposer::elements)
                        .sum();
    }

    /** Makes a record type of the elements of each array; those inside others belong to them. */
    private static void collect(Place place, Found parent, List<Found> found) {
        for (Place member : place.members.values()) {
            collect(member, parent, found);
        }
        if (place.element != null) {
            // An array of nothing but arrays has no values of its own.
            boolean values = place.element.isPlain() || !place.element.members.isEmpty();
            Found under = values ? new Found(place.element, parent) : parent;
            if (values) {
                found.add(under);
            }
            collect(place.element, under, found);
        }
    }

    private static List<FieldGuess> fields(Place place, String typeName) {
        Map<String, List<String>> values = new LinkedHashMap<>();
        gather(place, List.of(), values);
        if (values.isEmpty() || place.isPlain() && place.members.isEmpty()) {
            values.put("@", place.texts);
        }
        List<String> names = DistinctNames.of(values.keySet().stream()
                .map(path -> path.equals("@") ? "/" + typeName : words(path))
                .toList());
        List<FieldGuess> fields = new ArrayList<>();
        values.forEach((path, of) -> {
            TypeGuess type = TypeGuess.of(of, 0);
            fields.add(new FieldGuess(Field.atJson(path, names.get(fields.size()), type.type()), type));
        });
        return fields;
    }

    private static String words(String path) {
        StringBuilder words = new StringBuilder();
        for (Step step : JsonPath.ofField("json", path).steps()) {
            words.append('/').append(((JsonPath.Member) step).name().replace('/', ' '));
        }
        return words.toString();
    }

    /** The plain values that stand once in a value, by the way to them. */
    private static void gather(Place place, List<String> way, Map<String, List<String>> fields) {
        for (Place member : place.members.values()) {
            List<String> there = new ArrayList<>(way);
            there.add(member.name);
            if (member.isPlain()) {
                fields.put(JsonPath.fieldText(there), member.texts);
            }
            gather(member, there, fields);
        }
    }

    /** Reads a sample into the tree, as far as it can be read; false where not even its first value can. */
    private boolean read(ByteSource sample) throws IOException {
        byte[] bytes = Samples.start(sample);
        int values = 0;
        try (JsonParser parser = JSON.createParser(ObjectReadContext.empty(), bytes)) {
            for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
                take(parser, root);
                values++;
            }
        } catch (JacksonException e) {
            boolean cut = !Samples.isWhole(sample);
            if (values == 0 && root.count == 0 && !cut) {
                return false;
            }
            if (!cut) {
                guesses.add(new Guess(
                        "well-formed",
                        "up to line "
                                + Math.max(
                                        1,
                                        e.getLocation() == null
                                                ? 1
                                                : e.getLocation().getLineNr()),
                        Sureness.SURE,
                        "Behind it the sample cannot be read."));
            }
        }
        lines |= values > 1;
        return true;
    }

    private void take(JsonParser parser, Place place) {
        place.count++;
        JsonToken token = parser.currentToken();
        if (token == JsonToken.START_OBJECT) {
            while (parser.nextToken() == JsonToken.PROPERTY_NAME) {
                String name = parser.currentName();
                parser.nextToken();
                Place member = place.members.get(name);
                if (member == null) {
                    member = new Place(place, name);
                    // What is too much to be told apart is passed over, with all that stands in it.
                    if (places++ < MOST_PLACES && !name.isEmpty()) {
                        place.members.put(name, member);
                    }
                }
                take(parser, member);
            }
        } else if (token == JsonToken.START_ARRAY) {
            if (place.element == null) {
                place.element = new Place(place, null);
            }
            while (parser.nextToken() != JsonToken.END_ARRAY) {
                take(parser, place.element);
            }
        } else if (place.texts.size() < MOST_VALUES) {
            place.texts.add(token == JsonToken.VALUE_NULL ? "" : parser.getString());
        }
    }
}
