package ninepin.core.format.fixedlength.copybook;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/** The data description entries of a copybook, as a tree of levels. */
final class Copybook {

    /** An entry with those below it. */
    static final class Entry {
        final int level;
        final String name;
        final int line;
        Picture picture;
        Usage usage;
        int occurs = 1;
        /** What says how many there are, where their number varies, or null. */
        String depending;

        String redefines;
        boolean signLeading;
        boolean signSeparate;
        boolean synchronised;
        /** The literal it has at first, or those of a condition name. */
        final List<String> values = new ArrayList<>();

        boolean range;
        final List<Entry> below = new ArrayList<>();
        final List<Entry> conditions = new ArrayList<>();

        Entry(int level, String name, int line) {
            this.level = level;
            this.name = name;
            this.line = line;
        }

        boolean filler() {
            return name.equals("FILLER");
        }
    }

    /** How the digits of a number are kept. */
    enum Usage {
        DISPLAY,
        PACKED,
        BINARY,
        /** Binary, whose values are bounded by its bytes and not by the digits of its picture. */
        NATIVE_BINARY,
        FLOAT,
        DOUBLE,
        /** An address or an index; what it means is known to the program alone. */
        ADDRESS
    }

    private record Token(String text, int line) {}

    private static final int MOST_OCCURS = 1_000;

    private final List<Token> tokens = new ArrayList<>();
    private final List<Entry> records = new ArrayList<>();
    /** Entries of level 77, which belong to no record. */
    private final List<Entry> alone = new ArrayList<>();

    private int at;

    private Copybook() {}

    /** Reads a copybook. */
    static Copybook read(String text) {
        Copybook copybook = new Copybook();
        copybook.split(text);
        List<Entry> open = new ArrayList<>();
        while (copybook.at < copybook.tokens.size()) {
            copybook.place(copybook.entry(), open);
        }
        if (copybook.records.isEmpty()) {
            throw new DefinitionException("copybook", "there is no data description entry of a record in it");
        }
        return copybook;
    }

    /** The entries of level 01, or what stands at the outermost level, with all below them. */
    List<Entry> records() {
        return records;
    }

    List<Entry> alone() {
        return alone;
    }

    private void place(Entry entry, List<Entry> open) {
        if (entry.level == 66) {
            return;
        }
        if (entry.level == 88) {
            if (open.isEmpty()) {
                throw at(entry.line, "the condition name " + entry.name + " belongs to no entry");
            }
            open.get(open.size() - 1).conditions.add(entry);
            return;
        }
        if (entry.level == 77) {
            alone.add(entry);
            open.clear();
            open.add(entry);
            return;
        }
        while (!open.isEmpty() && open.get(open.size() - 1).level >= entry.level) {
            open.remove(open.size() - 1);
        }
        if (open.isEmpty()) {
            records.add(entry);
        } else {
            Entry group = open.get(open.size() - 1);
            if (group.picture != null) {
                throw at(entry.line, entry.name + " stands below " + group.name + ", which has a PICTURE of its own");
            }
            group.below.add(entry);
        }
        open.add(entry);
    }

    /** Takes words apart; a period ends an entry where a blank or the end of the line follows it. */
    private void split(String text) {
        List<String> lines = text.lines().toList();
        boolean numbered = areas(lines);
        for (int n = 0; n < lines.size(); n++) {
            String line = lines.get(n).replace('\t', ' ');
            if (numbered) {
                if (line.length() > 6 && "*/D".indexOf(line.charAt(6)) >= 0) {
                    continue;
                }
                line = line.length() <= 7 ? "" : line.substring(7, Math.min(72, line.length()));
            }
            if (!line.stripLeading().startsWith("*")) {
                words(line, n + 1);
            }
        }
    }

    /** Whether columns 1 to 6 are numbers or blank and 7 is an indicator in every line: the fixed reference format. */
    private static boolean areas(List<String> lines) {
        return lines.stream()
                .filter(l -> !l.isBlank())
                .allMatch(l -> l.length() > 6
                        && l.substring(0, 6).matches("[0-9 ]{6}|[A-Z0-9 ]{6}")
                        && " *-/D".indexOf(l.charAt(6)) >= 0
                        && (l.substring(0, 6).isBlank()
                                || !l.substring(0, 6).strip().matches("0?\\d|[1-4]\\d")));
    }

    private void words(String line, int number) {
        int i = 0;
        while (i < line.length()) {
            char c = line.charAt(i);
            if (c == ' ' || c == ',' && (i + 1 == line.length() || line.charAt(i + 1) == ' ')) {
                i++;
            } else if (c == '\'' || c == '"') {
                int end = line.indexOf(c, i + 1);
                if (end < 0) {
                    throw at(number, "a literal is not closed");
                }
                tokens.add(new Token(line.substring(i, end + 1), number));
                i = end + 1;
            } else if (line.startsWith("*>", i)) {
                return;
            } else {
                int end = i;
                while (end < line.length() && line.charAt(end) != ' ') {
                    end++;
                }
                String word = line.substring(i, end);
                boolean period = word.endsWith(".");
                if (period || word.endsWith(",")) {
                    word = word.substring(0, word.length() - 1);
                }
                if (!word.isEmpty()) {
                    tokens.add(new Token(word.toUpperCase(Locale.ROOT), number));
                }
                if (period) {
                    tokens.add(new Token(".", number));
                }
                i = end;
            }
        }
    }

    private Entry entry() {
        Token level = tokens.get(at++);
        if (!level.text.matches("\\d{1,2}")) {
            throw at(level.line, "expected a level number, found " + level.text);
        }
        int number = Integer.parseInt(level.text);
        boolean named = at < tokens.size() && !isClause(peek()) && !peek().equals(".");
        Entry entry = new Entry(number, named ? tokens.get(at++).text : "FILLER", level.line);
        while (at < tokens.size() && !peek().equals(".")) {
            clause(entry, tokens.get(at++));
        }
        if (at == tokens.size()) {
            throw at(level.line, "the entry " + entry.name + " does not end with a period");
        }
        at++;
        return entry;
    }

    /** The next word; a period where there is none. */
    private String peek() {
        return at < tokens.size() ? tokens.get(at).text : ".";
    }

    private static boolean isClause(String word) {
        return switch (word) {
            case "PIC", "PICTURE", "OCCURS", "REDEFINES", "USAGE", "VALUE", "VALUES", "SIGN", "COMP", "COMP-3" -> true;
            default -> false;
        };
    }

    private void clause(Entry entry, Token word) {
        switch (word.text) {
            case "PIC", "PICTURE" -> entry.picture = Picture.of(next(word, "IS"), word.line);
            case "USAGE" -> entry.usage = usage(next(word, "IS"), word.line);
            case "REDEFINES" -> entry.redefines = next(word);
            case "OCCURS" -> occurs(entry, word);
            case "SIGN" -> skip("IS");
            case "LEADING" -> entry.signLeading = true;
            case "TRAILING" -> entry.signLeading = false;
            case "SEPARATE" -> {
                entry.signSeparate = true;
                skip("CHARACTER");
            }
            case "VALUE", "VALUES" -> values(entry);
            case "SYNC", "SYNCHRONIZED" -> {
                entry.synchronised = true;
                skip("LEFT");
                skip("RIGHT");
            }
            case "JUST", "JUSTIFIED" -> skip("RIGHT");
            case "BLANK" -> {
                skip("WHEN");
                next(word);
            }
            case "RENAMES" -> {
                while (!peek().equals(".")) {
                    at++;
                }
            }
            case "EXTERNAL", "GLOBAL" -> {}
            default -> entry.usage = usage(word.text, word.line);
        }
    }

    private void occurs(Entry entry, Token word) {
        int most = times(entry, word, next(word), 0);
        if (peek().equals("TO")) {
            at++;
            most = times(entry, word, next(word), 1);
        }
        if (most == 0) {
            throw at(word.line, entry.name + " occurs 0 times");
        }
        entry.occurs = most;
        skip("TIMES");
        while (!peek().equals(".") && !isClause(peek())) {
            String more = tokens.get(at++).text;
            if (more.equals("DEPENDING")) {
                skip("ON");
                entry.depending = next(word);
            }
        }
    }

    private static int times(Entry entry, Token word, String times, int least) {
        if (!times.matches("\\d{1,4}") || Integer.parseInt(times) < least || Integer.parseInt(times) > MOST_OCCURS) {
            throw at(word.line, "OCCURS of " + entry.name + " is " + times + "; expected 1 to " + MOST_OCCURS);
        }
        return Integer.parseInt(times);
    }

    private void values(Entry entry) {
        skip("IS");
        skip("ARE");
        while (!peek().equals(".") && !isClause(peek())) {
            String value = tokens.get(at++).text;
            if (value.equals("THRU") || value.equals("THROUGH")) {
                entry.range = true;
            } else {
                entry.values.add(unquoted(value));
            }
        }
    }

    private static String unquoted(String literal) {
        char first = literal.charAt(0);
        return first == '\'' || first == '"' ? literal.substring(1, literal.length() - 1) : literal;
    }

    private String next(Token word, String filler) {
        skip(filler);
        return next(word);
    }

    private String next(Token word) {
        if (at == tokens.size() || peek().equals(".")) {
            throw at(word.line, "something is missing behind " + word.text);
        }
        return tokens.get(at++).text;
    }

    private void skip(String word) {
        if (at < tokens.size() && peek().equals(word)) {
            at++;
        }
    }

    private static Usage usage(String word, int line) {
        return switch (word) {
            case "DISPLAY" -> Usage.DISPLAY;
            case "COMP-3", "COMPUTATIONAL-3", "PACKED-DECIMAL" -> Usage.PACKED;
            case "COMP", "COMPUTATIONAL", "BINARY", "COMP-4", "COMPUTATIONAL-4" -> Usage.BINARY;
            case "COMP-5", "COMPUTATIONAL-5" -> Usage.NATIVE_BINARY;
            case "COMP-1", "COMPUTATIONAL-1" -> Usage.FLOAT;
            case "COMP-2", "COMPUTATIONAL-2" -> Usage.DOUBLE;
            case "POINTER", "INDEX", "PROCEDURE-POINTER", "FUNCTION-POINTER" -> Usage.ADDRESS;
            default -> throw at(line, word + " is not understood, so that nothing behind it has a place");
        };
    }

    static DefinitionException at(int line, String message) {
        return new DefinitionException("copybook", "line " + line + ": " + message);
    }
}
