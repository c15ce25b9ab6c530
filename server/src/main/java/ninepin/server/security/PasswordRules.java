package ninepin.server.security;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What a new password has to be. What people choose most is refused, with the usual additions too. */
@Component
class PasswordRules {

    static final int LEAST = 12;
    /** BCrypt reads no further. */
    private static final int MOST_BYTES = 72;

    private final Set<String> common;

    PasswordRules() throws IOException {
        try (BufferedReader in = new BufferedReader(new InputStreamReader(
                PasswordRules.class.getResourceAsStream("/common-passwords.txt"), StandardCharsets.UTF_8))) {
            common = in.lines().filter(l -> !l.isBlank()).collect(Collectors.toUnmodifiableSet());
        }
    }

    /** What is wrong with a password, or null. */
    String problem(String password, String account) {
        if (password == null || password.codePointCount(0, password.length()) < LEAST) {
            return "A password has at least " + LEAST + " characters.";
        }
        if (password.getBytes(StandardCharsets.UTF_8).length > MOST_BYTES) {
            return "A password has at most " + MOST_BYTES + " bytes.";
        }
        String plain = plain(password);
        if (account != null && account.length() > 2 && plain.contains(plain(account))) {
            return "A password does not hold the name of its account.";
        }
        if (password.codePoints().distinct().count() < 5 || isSequence(plain) || isCommon(plain)) {
            return "This password is one of those that are tried first. Choose another, such as four words that do not"
                    + " belong together.";
        }
        return null;
    }

    /** In small letters, without accents, and with the letters that digits and signs usually stand for. */
    private static String plain(String text) {
        String small = Normalizer.normalize(text, Normalizer.Form.NFKD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT);
        return small.replace('0', 'o')
                .replace('1', 'i')
                .replace('3', 'e')
                .replace('4', 'a')
                .replace('5', 's')
                .replace('7', 't')
                .replace('@', 'a')
                .replace('$', 's')
                .replace('!', 'i');
    }

    /** Whether nothing is left of it but common words, the signs between them and what stands at its end. */
    private boolean isCommon(String plain) {
        String rest = plain;
        String before;
        do {
            before = rest;
            for (String word : common) {
                rest = rest.replace(plain(word), "");
            }
        } while (!rest.equals(before));
        return rest.codePoints().filter(Character::isLetterOrDigit).count() <= 5;
    }

    /** Whether most characters follow the one before them in the alphabet or are the same. */
    private static boolean isSequence(String plain) {
        int steps = 0;
        for (int i = 1; i < plain.length(); i++) {
            int step = plain.charAt(i) - plain.charAt(i - 1);
            steps += Math.abs(step) <= 1 ? 1 : 0;
        }
        return steps * 4 >= plain.length() * 3;
    }
}
