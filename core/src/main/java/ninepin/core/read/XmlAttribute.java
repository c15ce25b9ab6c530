package ninepin.core.read;

/** Finds where the value of an attribute stands in a start tag; the parser does not tell. */
final class XmlAttribute {

    private XmlAttribute() {}

    /**
     * Sets the place of a field to the value of an attribute, or to the whole start tag where the encoding has two
     * bytes a character.
     *
     * @param tag where the start tag begins, counted from the start of the record
     * @param wanted which of the attributes it is, from 0, declarations of namespaces left out
     */
    static void place(RawRecord r, int field, int tag, int wanted) {
        byte[] b = r.buffer;
        int end = r.start + r.length;
        int nameStart = -1;
        int seen = 0;
        for (int i = r.start + tag; i < end && b[i] != '>'; i++) {
            if (b[i] == ' ' || b[i] == '\t' || b[i] == '\n' || b[i] == '\r') {
                nameStart = nameStart >= 0 && followedByEquals(b, i, end) ? nameStart : i + 1;
            } else if (b[i] == '"' || b[i] == '\'') {
                int close = i + 1;
                while (close < end && b[close] != b[i]) {
                    close++;
                }
                if (!declaresNamespace(b, nameStart) && seen++ == wanted) {
                    r.from[field] = i + 1 - r.start;
                    r.to[field] = close - r.start;
                    return;
                }
                i = close;
                nameStart = -1;
            }
        }
        int close = r.start + tag;
        while (close < end && b[close] != '>') {
            close++;
        }
        r.from[field] = tag;
        r.to[field] = Math.min(close + 1, end) - r.start;
    }

    private static boolean followedByEquals(byte[] b, int from, int end) {
        int i = from;
        while (i < end && (b[i] == ' ' || b[i] == '\t' || b[i] == '\n' || b[i] == '\r')) {
            i++;
        }
        return i < end && b[i] == '=';
    }

    private static boolean declaresNamespace(byte[] b, int nameStart) {
        String xmlns = "xmlns";
        for (int k = 0; k < xmlns.length(); k++) {
            if (nameStart < 0 || nameStart + k >= b.length || b[nameStart + k] != xmlns.charAt(k)) {
                return false;
            }
        }
        byte next = b[nameStart + xmlns.length()];
        return next == '=' || next == ':' || next == ' ';
    }
}
