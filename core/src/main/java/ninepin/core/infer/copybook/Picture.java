package ninepin.core.infer.copybook;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A picture character string (ISO/IEC 1989, 13.18.40).
 *
 * @param kind what it holds
 * @param size the characters it has when it is displayed, a separate sign left out
 * @param digits the digits of a number
 * @param scale those of them behind the decimal point
 * @param signed whether it may be negative
 * @param grouped whether commas stand in it
 */
record Picture(Kind kind, int size, int digits, int scale, boolean signed, boolean grouped) {

    /** What a picture holds. */
    enum Kind {
        TEXT,
        NUMBER,
        /** A number as people write it, with its decimal point. */
        WRITTEN_NUMBER
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

    private static Picture read(String p, String written, int line) {
        if (p.matches("S?9*V?9*") && p.indexOf('9') >= 0) {
            int point = p.indexOf('V');
            int scale = point < 0 ? 0 : p.length() - point - 1;
            int digits = (int) p.chars().filter(c -> c == '9').count();
            return new Picture(Kind.NUMBER, digits, digits, scale, p.startsWith("S"), false);
        }
        if (p.matches("[XAB90/]+")) {
            return new Picture(Kind.TEXT, p.length(), 0, 0, false, false);
        }
        if (p.matches("[-+Z9,]*(\\.[Z9]+)?[-+]?") && (p.indexOf('9') >= 0 || p.indexOf('Z') >= 0)) {
            int point = p.indexOf('.');
            int scale = point < 0 ? 0 : (int) digitsIn(p.substring(point));
            return new Picture(
                    Kind.WRITTEN_NUMBER,
                    p.length(),
                    (int) digitsIn(p),
                    scale,
                    p.matches(".*[-+].*"),
                    p.indexOf(',') >= 0);
        }
        if (p.matches("[-+Z9,.*$XAB0/CRD]+")) {
            return new Picture(Kind.TEXT, p.length(), 0, 0, false, false);
        }
        throw Copybook.at(line, "the picture " + written + " is not understood");
    }

    private static long digitsIn(String p) {
        return p.chars().filter(c -> c == '9' || c == 'Z').count();
    }
}
