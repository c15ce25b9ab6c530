package ninepin.core.shape;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.DateTimeException;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;
import ninepin.core.formula.EvaluationException;
import ninepin.core.layout.Shown;
import org.apache.commons.text.StringEscapeUtils;

/** The finishing touches of a rule, one after the other. */
final class Touches {

    private final List<UnaryOperator<String>> steps;

    Touches(List<Touch> touches) {
        this.steps = touches.stream().map(Touches::step).toList();
    }

    /**
     * Touches up a text.
     *
     * @param text the text, or null for NULL
     * @throws EvaluationException where one of them cannot be done on it
     */
    String apply(String text) {
        String value = text;
        for (int i = 0; i < steps.size() && value != null; i++) {
            value = steps.get(i).apply(value);
        }
        return value;
    }

    private static UnaryOperator<String> step(Touch touch) {
        int to = touch.to() == null ? 0 : touch.to();
        String with = touch.with();
        return switch (touch.does()) {
            case TRIM -> s -> s.isBlank() ? null : s.strip();
            case TRIM_LEFT -> s -> s.isBlank() ? null : s.stripLeading();
            case TRIM_RIGHT -> s -> s.isBlank() ? null : s.stripTrailing();
            case LEADING_ZEROS -> s -> s.replaceFirst("^([+-]?)0+(?=\\p{Nd})", "$1");
            case UPPER -> s -> s.toUpperCase(Locale.ROOT);
            case LOWER -> s -> s.toLowerCase(Locale.ROOT);
            case PAD_LEFT -> s -> fill(s, to, with) + s;
            case PAD_RIGHT -> s -> s + fill(s, to, with);
            case CUT -> s -> s.codePointCount(0, s.length()) <= to ? s : s.substring(0, s.offsetByCodePoints(0, to));
            case ROUND -> s -> number(s).setScale(to, RoundingMode.HALF_UP).toPlainString();
            case NUMBER -> s -> TextForms.number(number(s), with);
            case DATE -> dated(with);
            case ENCODE -> s -> encode(s, with);
            case DECODE -> s -> decode(s, with);
            case HASH -> s -> hash(s, with);
        };
    }

    /** What is missing of a text to so many characters. */
    private static String fill(String s, int to, String with) {
        int missing = to - s.codePointCount(0, s.length());
        if (missing <= 0) {
            return "";
        }
        String enough = with.repeat(missing / with.codePointCount(0, with.length()) + 1);
        return enough.substring(0, enough.offsetByCodePoints(0, missing));
    }

    private static BigDecimal number(String s) {
        String text = s.strip();
        if (!text.matches("[+-]?(\\d{1,200}(\\.\\d{0,200})?|\\.\\d{1,200})")) {
            throw new EvaluationException("SHP-01", Shown.quoted(s) + ", which is no number");
        }
        return new BigDecimal(text);
    }

    private static UnaryOperator<String> dated(String pattern) {
        DateTimeFormatter format = TextForms.temporal(pattern);
        return s -> {
            try {
                return TextForms.temporal(s, format);
            } catch (DateTimeException e) {
                throw new EvaluationException("SHP-02", Shown.quoted(s) + ", which cannot be written as " + pattern);
            }
        };
    }

    private static String encode(String s, String method) {
        byte[] utf8 = s.getBytes(StandardCharsets.UTF_8);
        return switch (method) {
            case "base64" -> Base64.getEncoder().encodeToString(utf8);
            case "hex" -> HexFormat.of().formatHex(utf8);
            case "url" -> URLEncoder.encode(s, StandardCharsets.UTF_8).replace("+", "%20");
            default -> StringEscapeUtils.escapeXml10(s);
        };
    }

    private static String decode(String s, String method) {
        try {
            return switch (method) {
                case "base64" -> text(Base64.getDecoder().decode(s.strip()));
                case "hex" -> text(HexFormat.of().parseHex(s.strip()));
                case "url" -> URLDecoder.decode(s, StandardCharsets.UTF_8);
                default -> StringEscapeUtils.unescapeXml(s);
            };
        } catch (IllegalArgumentException | CharacterCodingException e) {
            throw new EvaluationException("SHP-03", Shown.quoted(s) + ", which is not encoded as " + method);
        }
    }

    private static String text(byte[] utf8) throws CharacterCodingException {
        return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(utf8)).toString();
    }

    private static String hash(String s, String method) {
        try {
            MessageDigest digest = MessageDigest.getInstance(method.toUpperCase(Locale.ROOT));
            return HexFormat.of().formatHex(digest.digest(s.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has " + method, e);
        }
    }
}
