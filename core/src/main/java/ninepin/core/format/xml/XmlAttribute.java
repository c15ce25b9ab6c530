package ninepin.core.format.xml;

/** Finds where the value of an attribute stands in a start tag; the parser does not tell. */
final class XmlAttribute {

    private final XmlRecord r;
    /** Where the tag begins in the record. */
    private final int tag;

    private final int width;
    private final int count;

    /**
     * @param tag where the start tag begins, counted from the start of the record
     */
    XmlAttribute(XmlRecord r, int tag) {
        this.r = r;
        this.tag = tag;
        this.width = r.unitBytes();
        this.count = (r.length() - tag) / width;
    }

    /**
     * Where the value of an attribute stands in the record, from and to; the whole tag where it cannot be told.
     *
     * @param wanted which of the attributes it is, from 0, declarations of namespaces left out
     */
    int[] find(int wanted) {
        int[] found = inUnits(wanted);
        return new int[] {tag + found[0] * width, tag + found[1] * width};
    }

    private int[] inUnits(int wanted) {
        int nameStart = -1;
        int seen = 0;
        int i = 0;
        for (; i < count && at(i) != '>'; i++) {
            if (isBlank(at(i))) {
                nameStart = nameStart >= 0 && followedByEquals(i) ? nameStart : i + 1;
            } else if (at(i) == '"' || at(i) == '\'') {
                int close = i + 1;
                while (close < count && at(close) != at(i)) {
                    close++;
                }
                if (!declaresNamespace(nameStart) && seen++ == wanted) {
                    return new int[] {i + 1, close};
                }
                i = close;
                nameStart = -1;
            }
        }
        return new int[] {0, Math.min(i + 1, count)};
    }

    private int at(int i) {
        return r.unit(tag + i * width);
    }

    private static boolean isBlank(int c) {
        return c == ' ' || c == '\t' || c == '\n' || c == '\r';
    }

    private boolean followedByEquals(int from) {
        int i = from;
        while (i < count && isBlank(at(i))) {
            i++;
        }
        return i < count && at(i) == '=';
    }

    private boolean declaresNamespace(int nameStart) {
        String xmlns = "xmlns";
        for (int k = 0; k < xmlns.length(); k++) {
            if (nameStart < 0 || nameStart + k >= count || at(nameStart + k) != xmlns.charAt(k)) {
                return false;
            }
        }
        int behind = nameStart + xmlns.length();
        return behind < count && (at(behind) == '=' || at(behind) == ':' || at(behind) == ' ');
    }
}
