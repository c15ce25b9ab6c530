package ninepin.core.formula;

import java.util.List;

/**
 * A function as it is explained to those who write formulas.
 *
 * @param name the word that it begins with
 * @param signature how it is written
 * @param example a call of it
 */
public record FunctionGuide(String name, String signature, String example) {

    /** All functions, by what they are for: choices, text, numbers, dates. */
    public static final List<FunctionGuide> ALL = List.of(
            of("CASE", "CASE WHEN condition THEN value ELSE value END", "CASE WHEN 3 > 2 THEN 'more' ELSE 'less' END"),
            of("COALESCE", "COALESCE(value, value, …)", "COALESCE(NULL, 'none')"),
            of("NULLIF", "NULLIF(value, value)", "NULLIF('-', '-')"),
            of("GREATEST", "GREATEST(value, value, …)", "GREATEST(3, 12)"),
            of("LEAST", "LEAST(value, value, …)", "LEAST(3, 12)"),
            of("CAST", "CAST(value AS type FORMAT 'template')", "CAST('24.12.2019' AS DATE FORMAT 'DD.MM.YYYY')"),
            of("SUBSTRING", "SUBSTRING(text FROM start FOR length)", "SUBSTRING('R07-12' FROM 1 FOR 3)"),
            of("TRIM", "TRIM(LEADING 'c' FROM text)", "TRIM(LEADING '0' FROM '00042')"),
            of("UPPER", "UPPER(text)", "UPPER('fat')"),
            of("LOWER", "LOWER(text)", "LOWER('FAT')"),
            of("CHAR_LENGTH", "CHAR_LENGTH(text)", "CHAR_LENGTH('Larkfell')"),
            of("OCTET_LENGTH", "OCTET_LENGTH(text)", "OCTET_LENGTH('Höf')"),
            of("POSITION", "POSITION(text IN text)", "POSITION('-' IN 'R07-12')"),
            of("OVERLAY", "OVERLAY(text PLACING text FROM start FOR length)", "OVERLAY('R7' PLACING '0' FROM 2 FOR 0)"),
            of("LPAD", "LPAD(text, length, fill)", "LPAD('7', 3, '0')"),
            of("RPAD", "RPAD(text, length, fill)", "RPAD('7', 3, '.')"),
            of("REPLACE", "REPLACE(text, search, by)", "REPLACE('4,5', ',', '.')"),
            of(
                    "SUBSTRING_REGEX",
                    "SUBSTRING_REGEX('pattern' IN text OCCURRENCE n)",
                    "SUBSTRING_REGEX('[0-9]+' IN 'R07-12')"),
            of(
                    "REPLACE_REGEX",
                    "REPLACE_REGEX('pattern' IN text WITH text)",
                    "REPLACE_REGEX('[^0-9]' IN 'R07-12' WITH '')"),
            of("ABS", "ABS(number)", "ABS(-4.5)"),
            of("MOD", "MOD(number, number)", "MOD(17, 5)"),
            of("ROUND", "ROUND(number, digits)", "ROUND(4.567, 1)"),
            of("FLOOR", "FLOOR(number)", "FLOOR(4.9)"),
            of("CEILING", "CEILING(number)", "CEILING(4.1)"),
            of("POWER", "POWER(number, whole number)", "POWER(2, 10)"),
            of("EXTRACT", "EXTRACT(YEAR FROM date)", "EXTRACT(MONTH FROM DATE '2019-12-24')"),
            of("CURRENT_DATE", "CURRENT_DATE", "CURRENT_DATE + INTERVAL '3' DAY"),
            of("TRANSLATE", "TRANSLATE(value USING list.column AT date)", "TRANSLATE('R7' USING routes)"),
            of("COUNT", "COUNT(DISTINCT line.field) FILTER (WHERE condition)", "COUNT(*)"),
            of("SUM", "SUM(line.field) FILTER (WHERE condition)", "SUM(item.amount)"),
            of("MIN", "MIN(line.field)", "MIN(item.amount)"),
            of("MAX", "MAX(line.field)", "MAX(item.amount)"),
            of("AVG", "AVG(line.field)", "AVG(item.amount)"));

    private static FunctionGuide of(String name, String signature, String example) {
        return new FunctionGuide(name, signature, example);
    }
}
