package ninepin.core.format.fixedlength.copybook;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A picture character string (ISO/IEC 1989, 13.18.40).
 *
 * @param kind what it holds
 * @param size the bytes it takes when it is displayed, a separate sign left out
 * @param digits the digits of a number
 * @param scale those of them behind the decimal point
 * @param sign where its sign stands
 * @param grouped whether groups of three digits stand apart in it
 * @param comma whether a comma stands for the decimal point, and a point between groups
 */
record Picture(Kind kind, int size, int digits, int scale, SignAt sign, boolean grouped, boolean comma) {

    /** What a picture holds. */
    enum Kind {
        TEXT,
        NUMBER,
        /** A number as people write it, with its decimal point. */
        WRITTEN_NUMBER,
        /** What cannot be read as it is meant; its bytes are known. */
        UNREAD
    }

    /** Where a picture has its sign; of a {@link Kind#NUMBER} an entry says more. */
    enum SignAt {
        NOWHERE,
        IN_FRONT,
        BEHIND
    }

    private static final int MOST = 32_768;
    private static final Pattern REPEATED = Pattern.compile("(.)\\((\\d{1,5})\\)");

    static Picture of(String string, int line) {
        Matcher m = REPEATED.matcher(string);
        StringBuilder all = new StringBuilder();
        while (m.find()) {
            int times = Integer.parseInt(m.group(2));
            if (times < 1 || times > MOST) {
                throw Copybook.at(line, "the picture " + string + " repeats " + m.group(1) + " " + times + " times");
            }
            m.appendReplacement(all, Matcher.quoteReplacement(m.group(1).repeat(times)));
        }
        m.appendTail(all);
        return read(all.toString(), string, line);
    }

    boolean signed() {
        return sign != SignAt.NOWHERE;
    }

    private static Picture read(String p, String written, int line) {
        if (p.matches("S?(9*V?9*|V?P+9+)") && p.indexOf('9') >= 0) {
            int nines = count(p, "9");
            // Zeros that are not written: those in front belong to the fraction.
            int zeros = count(p, "P");
            int point = p.indexOf('V');
            int scale = zeros > 0 ? zeros + nines : point < 0 ? 0 : p.length() - point - 1;
            return new Picture(
                    Kind.NUMBER,
                    nines,
                    Math.max(nines, scale),
                    scale,
                    p.startsWith("S") ? SignAt.BEHIND : SignAt.NOWHERE,
                    false,
                    false);
        }
        if (p.matches("[XAB90/]+")) {
            return text(p.length());
        }
        Picture edited = p.matches("[-+Z9,.]+") ? edited(p) : null;
        if (edited != null) {
            return edited;
        }
        if (p.matches("[-+Z9,.*$XAB0/CRD]+")) {
            return text(p.length());
        }
        if (p.matches("[-+Z9,.*$XAB0/CRDSVPNGE]+")) {
            return new Picture(Kind.UNREAD, count(p, "[^SVP]") + count(p, "[NG]"), 0, 0, SignAt.NOWHERE, false, false);
        }
        throw Copybook.at(line, "the picture " + written + " is not understood");
    }

    private static Picture text(int size) {
        return new Picture(Kind.TEXT, size, 0, 0, SignAt.NOWHERE, false, false);
    }

    /** A number with a decimal point, groups and a sign that are written; null where it is no such number. */
    private static Picture edited(String p) {
        boolean comma = p.lastIndexOf(',') > p.lastIndexOf('.')
                && (p.indexOf('.') >= 0 || digitsIn(p.substring(p.lastIndexOf(','))) != 3);
        String plain = comma ? p.replace('.', ';').replace(',', '.').replace(';', ',') : p;
        int point = plain.indexOf('.');
        boolean behind = plain.length() > 1
                && "+-".indexOf(plain.charAt(plain.length() - 1)) >= 0
                && !floats(plain, plain.charAt(plain.length() - 1));
        String digits = behind ? plain.substring(0, plain.length() - 1) : plain;
        String signs = digits.replaceAll("[^-+]", "");
        boolean one = signs.chars().distinct().count() <= 1
                && plain.chars().filter(c -> c == '.').count() <= 1;
        // A sign of its own stands apart from digits that are suppressed; those that float stand beside them.
        boolean apart = signs.length() == 1 && digits.indexOf('Z') >= 0;
        boolean front = signs.isEmpty() || digits.startsWith(signs.substring(0, 1));
        if (!one || apart || !front || behind && !signs.isEmpty()) {
            return null;
        }
        int floating = Math.max(0, signs.length() - 1);
        int count = count(digits, "[Z9]") + floating;
        int scale = point < 0 ? 0 : digitsIn(digits.substring(point));
        return count == 0
                ? null
                : new Picture(
                        Kind.WRITTEN_NUMBER,
                        p.length(),
                        count,
                        scale,
                        behind ? SignAt.BEHIND : signs.isEmpty() ? SignAt.NOWHERE : SignAt.IN_FRONT,
                        plain.indexOf(',') >= 0,
                        comma);
    }

    /** Whether a sign stands for digits, several times from the start. */
    private static boolean floats(String p, char sign) {
        return p.startsWith(String.valueOf(sign).repeat(2));
    }

    private static int digitsIn(String p) {
        return count(p, "[-+Z9]");
    }

    private static int count(String p, String what) {
        return p.length() - p.replaceAll(what, "").length();
    }
}
