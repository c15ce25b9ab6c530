package ninepin.core.formula;

import java.nio.charset.StandardCharsets;

/** What is done with texts. Places and lengths count characters (code points), from 1. */
final class Texts {

    private Texts() {}

    static int length(String text) {
        return text.codePointCount(0, text.length());
    }

    /** The bytes of a text in UTF-8. */
    static long octets(String text) {
        return text.getBytes(StandardCharsets.UTF_8).length;
    }

    private static boolean wide(String text) {
        return length(text) != text.length();
    }

    private static int index(String text, boolean wide, int characters) {
        return wide ? text.offsetByCodePoints(0, characters) : characters;
    }

    /** SUBSTRING: characters outside the text are none; a negative length is an error. */
    static void substring(Expr self, Datum text, Datum start, Datum length, Datum out) {
        long from = whole(self, start);
        long end = length == null ? Long.MAX_VALUE : from + whole(self, length);
        if (end < from) {
            throw new EvaluationException("FML-03", self, "a length of " + whole(self, length) + ", which is below 0");
        }
        boolean wide = wide(text.text);
        int all = wide ? length(text.text) : text.text.length();
        int first = (int) Math.max(1, Math.min(from, all + 1L));
        int behind = (int) Math.max(first, Math.min(end, all + 1L));
        out.set(text.text.substring(index(text.text, wide, first - 1), index(text.text, wide, behind - 1)));
    }

    /** OVERLAY: so many characters replaced, as many as the replacement has where that is not said. */
    static void overlay(Expr self, Datum text, Datum placing, Datum start, Datum length, Datum out) {
        long from = whole(self, start);
        long count = length == null ? length(placing.text) : whole(self, length);
        if (from < 1 || count < 0) {
            throw new EvaluationException("FML-03", self, "a place of " + from + " and a length of " + count);
        }
        boolean wide = wide(text.text);
        long all = wide ? length(text.text) : text.text.length();
        int first = (int) Math.min(from - 1, all);
        int behind = (int) Math.min(from - 1 + count, all);
        out.set(text.text.substring(0, index(text.text, wide, first))
                + placing.text
                + text.text.substring(index(text.text, wide, behind)));
    }

    /** POSITION: the place of the first occurrence, 0 where there is none, 1 for an empty text. */
    static void position(Datum wanted, Datum text, Datum out) {
        int at = text.text.indexOf(wanted.text);
        out.set(at < 0 ? 0 : text.text.codePointCount(0, at) + 1L);
    }

    static void trim(Expr self, Datum text, Datum character, boolean start, boolean end, Datum out) {
        String c = character.text;
        if (length(c) != 1) {
            throw new EvaluationException("FML-03", self, "'" + c + "' to trim, where one character is wanted");
        }
        int from = 0;
        int to = text.text.length();
        while (start && from < to && text.text.startsWith(c, from)) {
            from += c.length();
        }
        while (end && to - c.length() >= from && text.text.startsWith(c, to - c.length())) {
            to -= c.length();
        }
        out.set(text.text.substring(from, to));
    }

    /** LPAD, RPAD: filled up to so many characters, and cut to them where there are more. */
    static void pad(Expr self, Datum text, Datum length, String fill, boolean left, Datum out) {
        long wanted = whole(self, length);
        if (wanted < 0 || wanted > SqlType.MOST_CHARACTERS) {
            throw new EvaluationException("FML-03", self, "a length of " + wanted);
        }
        int has = length(text.text);
        if (has >= wanted) {
            out.set(text.text.substring(0, index(text.text, wide(text.text), (int) wanted)));
            return;
        }
        if (fill.isEmpty()) {
            throw new EvaluationException("FML-03", self, "an empty text to fill with");
        }
        int missing = (int) wanted - has;
        int each = length(fill);
        String filled = fill.repeat(missing / each) + fill.substring(0, index(fill, wide(fill), missing % each));
        out.set(left ? filled + text.text : text.text + filled);
    }

    static void concatenate(Expr self, Datum a, Datum b, Datum out) {
        if ((long) a.text.length() + b.text.length() > SqlType.MOST_CHARACTERS) {
            throw tooLong(self);
        }
        out.set(a.text.concat(b.text));
    }

    static void replace(Expr self, Datum text, Datum search, Datum by, Datum out) {
        String result = search.text.isEmpty() ? text.text : text.text.replace(search.text, by.text);
        if (result.length() > SqlType.MOST_CHARACTERS) {
            throw tooLong(self);
        }
        out.set(result);
    }

    private static EvaluationException tooLong(Expr self) {
        return new EvaluationException(
                "FML-02", self, "a text of more than " + SqlType.MOST_CHARACTERS + " characters");
    }

    /** A number that has to be whole and small: a place, a length, a count. */
    static long whole(Expr self, Datum number) {
        if (number.big != null
                || number.scale != 0 && number.decimal().stripTrailingZeros().scale() > 0) {
            throw new EvaluationException(
                    "FML-03", self, number.decimal().toPlainString() + " where a whole number is wanted");
        }
        long n = number.scale == 0 ? number.number : number.decimal().longValue();
        return Math.max(-Integer.MAX_VALUE, Math.min(Integer.MAX_VALUE, n));
    }

    /** LIKE: {@code %} stands for any characters, {@code _} for one, the escape character for what follows it. */
    static boolean like(Expr self, String text, String pattern, int escape) {
        int[] p = pattern.codePoints().toArray();
        int[] t = text.codePoints().toArray();
        requireEscapes(self, p, escape);
        int ti = 0;
        int pi = 0;
        int star = -1;
        int mark = 0;
        while (ti < t.length) {
            boolean escaped = pi < p.length && p[pi] == escape;
            if (!escaped && pi < p.length && p[pi] == '%') {
                star = pi++;
                mark = ti;
            } else if (pi < p.length && (!escaped && p[pi] == '_' || p[escaped ? pi + 1 : pi] == t[ti])) {
                pi += escaped ? 2 : 1;
                ti++;
            } else if (star >= 0) {
                pi = star + 1;
                ti = ++mark;
            } else {
                return false;
            }
        }
        while (pi < p.length && p[pi] == '%') {
            pi++;
        }
        return pi == p.length;
    }

    private static void requireEscapes(Expr self, int[] pattern, int escape) {
        for (int i = 0; i < pattern.length; i++) {
            if (pattern[i] == escape) {
                i++;
                if (i == pattern.length || pattern[i] != '%' && pattern[i] != '_' && pattern[i] != escape) {
                    throw new EvaluationException(
                            "FML-03", self, "a pattern whose escape character is not followed by %, _ or itself");
                }
            }
        }
    }
}
