package ninepin.core.value;

import ninepin.core.layout.Shown;

/** Says what is wrong with a text that should be a number, as sharply as it can be said. */
final class NumberProblem {

    private NumberProblem() {}

    /**
     * @param text the text of the field
     * @param at the character at which it stopped being a number, from 0; its length when something is missing
     * @param expected what was expected
     * @param decimalSign the decimal sign of the type, or -1
     */
    static Problem at(String text, int at, String expected, int decimalSign) {
        return new Problem("NUM-01", expected, advice(text, Math.min(at, text.length()), decimalSign));
    }

    private static String advice(String text, int at, int decimalSign) {
        if (at >= text.stripTrailing().length()) {
            return "It ends where a digit is needed.";
        }
        char c = text.charAt(at);
        String place = "Character " + (at + 1) + " is ";
        if (c == 'O' || c == 'o') {
            return place + "the letter " + c + ", not the digit 0.";
        }
        if (c == 'l' || c == 'I') {
            return place + "the letter " + c + ", not the digit 1.";
        }
        if (c == ',' || c == '.') {
            String name = c == ',' ? "a comma" : "a point";
            if (decimalSign < 0) {
                return place + name + "; choose DECIMAL if the values have a fraction.";
            }
            if (decimalSign != c) {
                return place + name + "; the layout's decimal sign is a " + (decimalSign == ',' ? "comma" : "point")
                        + ".";
            }
            return place + name + " in the wrong place.";
        }
        if (c == 'E' || c == 'e') {
            return place + "an E: numbers with exponents are not taken.";
        }
        if (Character.isLetter(c)) {
            return place + "the letter " + c + ".";
        }
        if (c == '\u00a0') {
            return place + "a no-break space.";
        }
        return place + (c == ' ' ? "a blank" : Shown.quoted(String.valueOf(c))) + ".";
    }
}
