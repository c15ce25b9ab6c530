package ninepin.core.format.json;

import java.util.List;
import ninepin.core.bytes.Utf8;
import ninepin.core.bytes.Words;

/**
 * The short way through a line that is one object of plain members, as those of most files are: in one loop over the bytes, which all are
 * held. Whatever is not plain at first sight (an escape, something nested, anything malformed) is left to {@link JsonReader}, which then
 * reads the line from its start.
 */
final class FlatLine {

    static final int UNUSUAL = -1;

    private final JsonPlaces.Node record;

    private FlatLine(JsonPlaces.Node record) {
        this.record = record;
    }

    /** For records that are the lines, with fields that are their members; else null. */
    static FlatLine of(JsonPlaces.Node root) {
        boolean flat = root.type >= 0
                && root.values.isEmpty()
                && root.children().stream().allMatch(c -> c.isPlainMember());
        return flat ? new FlatLine(root) : null;
    }

    /**
     * Takes a line; the values are the bytes of the line themselves.
     *
     * @param r a record that has begun at the start of the line; its places count from there
     * @param from where the line starts; behind its end eight bytes are held
     * @param to where the bytes that are held end
     * @return where the object ends; {@link #UNUSUAL} where it is not plain, or not held to its end. What was taken of it then means nothing
     */
    int take(JsonRecord r, byte[] bytes, int from, int to) {
        if (from == to || bytes[from] != '{') {
            return UNUSUAL;
        }
        int i = afterBlanks(bytes, from + 1, to);
        while (true) {
            JsonPlaces.Node member = record.expected();
            if (member != null && i + member.quoted.length() <= to && member.quoted.isAt(bytes, i)) {
                record.hasCome();
                i += member.quoted.length();
            } else {
                if (i >= to || bytes[i] != '"') {
                    return UNUSUAL;
                }
                int end = endOfString(bytes, i + 1, to);
                if (end == UNUSUAL) {
                    return UNUSUAL;
                }
                member = record.member(bytes, i + 1, end);
                i = end + 1;
            }
            i = afterBlanks(bytes, i, to);
            if (i >= to || bytes[i] != ':') {
                return UNUSUAL;
            }
            i = afterBlanks(bytes, i + 1, to);
            int end = i < to ? endOfValue(bytes, i, to) : UNUSUAL;
            if (end == UNUSUAL) {
                return UNUSUAL;
            }
            if (member != null) {
                put(r, member.values, bytes[i], i, end, from);
            }
            i = afterBlanks(bytes, end, to);
            if (i >= to) {
                return UNUSUAL;
            }
            if (bytes[i] == '}') {
                r.end = i + 1 - from;
                return i + 1;
            }
            if (bytes[i] != ',') {
                return UNUSUAL;
            }
            i = afterBlanks(bytes, i + 1, to);
        }
    }

    private static void put(JsonRecord r, List<JsonPlaces.Wanted> wanted, byte kind, int from, int end, int line) {
        int quote = kind == '"' ? 1 : 0;
        for (int w = 0; w < wanted.size(); w++) {
            int field = wanted.get(w).field();
            if (r.meet(field, from + quote - line, end - quote - line, quote > 0) && kind != 'n') {
                r.value(field, from + quote, end - quote);
            }
        }
    }

    private static int afterBlanks(byte[] bytes, int from, int to) {
        int i = from;
        while (i < to && (bytes[i] == ' ' || bytes[i] == '\t')) {
            i++;
        }
        return i;
    }

    /** Where a value ends that begins at a place. */
    private static int endOfValue(byte[] bytes, int from, int to) {
        byte kind = bytes[from];
        if (kind == '"') {
            int end = endOfString(bytes, from + 1, to);
            return end == UNUSUAL ? UNUSUAL : end + 1;
        }
        return switch (kind) {
            case 't' -> endOfWord(bytes, from, to, "true");
            case 'f' -> endOfWord(bytes, from, to, "false");
            case 'n' -> endOfWord(bytes, from, to, "null");
            default -> endOfNumber(bytes, from, to);
        };
    }

    private static int endOfWord(byte[] bytes, int from, int to, String word) {
        int end = from + word.length();
        if (end > to) {
            return UNUSUAL;
        }
        for (int i = 0; i < word.length(); i++) {
            if (bytes[from + i] != word.charAt(i)) {
                return UNUSUAL;
            }
        }
        return end;
    }

    /** A number without exponent; one that has it is rare. */
    private static int endOfNumber(byte[] bytes, int from, int to) {
        int i = bytes[from] == '-' ? from + 1 : from;
        int whole = i;
        i = endOfDigits(bytes, i, to);
        if (i == whole || bytes[whole] == '0' && i > whole + 1) {
            return UNUSUAL;
        }
        if (i < to && bytes[i] == '.') {
            int fraction = i + 1;
            i = endOfDigits(bytes, fraction, to);
            if (i == fraction) {
                return UNUSUAL;
            }
        }
        return i < to && (bytes[i] == 'e' || bytes[i] == 'E') ? UNUSUAL : i;
    }

    private static int endOfDigits(byte[] bytes, int from, int to) {
        int i = from;
        while (i < to && bytes[i] >= '0' && bytes[i] <= '9') {
            i++;
        }
        return i;
    }

    /** Where the closing quote of a string stands that has no escapes. */
    private static int endOfString(byte[] bytes, int from, int to) {
        boolean beyondAscii = false;
        int i = from;
        while (i < to) {
            long other = JsonInput.notPlain(Words.at(bytes, i));
            if (other == 0) {
                i += Long.BYTES;
                continue;
            }
            i += Long.numberOfTrailingZeros(other) >>> 3;
            if (i >= to || bytes[i] >= 0 && bytes[i] != '"') {
                return UNUSUAL;
            }
            if (bytes[i] == '"') {
                return beyondAscii && Utf8.firstBad(bytes, from, i) >= 0 ? UNUSUAL : i;
            }
            beyondAscii = true;
            i++;
        }
        return UNUSUAL;
    }
}
