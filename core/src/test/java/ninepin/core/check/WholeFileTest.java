package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.WholeFile.Summary;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Files checked in pieces side by side: the same is said as by one pass, or nothing. */
class WholeFileTest {

    /**
     * A file, and whether its pieces tell what one pass does.
     *
     * @param says the records and the refused ones, as {@code 400/0}, with the code of what halts the file
     */
    record Case(String what, String layout, String file, boolean inPieces, String says) {
        @Override
        public String toString() {
            return what;
        }
    }

    private static final int FARMS = 400;

    private static String lines(UnaryOperator<String> change) {
        return change.apply("Sample;Farm;Route;Test;Value;Unit;Taken;Temperature;Remark\r\n"
                + IntStream.range(0, FARMS)
                        .mapToObj(i -> "261123-%05d;38;R03;FAT;4,45;%%;23.11.2026;4,2;\"Tank %d\"\r\n".formatted(i, i))
                        .collect(Collectors.joining()));
    }

    private static String rounds(String trailer) {
        String round = "R%06dLK-1049 Edda                202611230417".formatted(1) + " ".repeat(33) + "\n";
        String stop = "C001000900428003243040+261123-00001" + " ".repeat(45) + "\n";
        return "H20261123R07" + " ".repeat(68) + "\n" + (round + stop + stop).repeat(FARMS) + trailer + " ".repeat(64)
                + "\n";
    }

    private static String register(UnaryOperator<String> change) {
        return change.apply("<r:register xmlns:r=\"urn:larkfell:register\" xmlns:h=\"urn:larkfell:herd\">\n"
                + IntStream.range(0, FARMS)
                        .mapToObj(i -> ("<r:farm number=\"%d\"><r:name>Höf %d</r:name><r:place valley=\"Ousdale\"/>"
                                        + "<h:herd breed=\"A\"><h:cows>12</h:cows></h:herd></r:farm>\n")
                                .formatted(i, i))
                        .collect(Collectors.joining())
                + "</r:register>");
    }

    static Stream<Case> cases() {
        String middle = "<r:farm number=\"" + FARMS / 2 + "\">";
        return Stream.of(
                new Case("lines", "quality-results", lines(l -> l), true, "400/0"),
                new Case(
                        "a few refused",
                        "quality-results",
                        lines(l -> l.replace("261123-00007;38", "261123-00007;x")),
                        true,
                        "400/1"),
                new Case(
                        "line breaks within quotes at the cut",
                        "quality-results",
                        lines(l -> l.replace("\"Tank", "\"1\r\n2\r\n3\r\n4\r\n5\r\n6\r\nTank")),
                        false,
                        "400/0"),
                new Case("totals that agree", "tanker-collections", rounds("T000800002594400"), true, "1202/0"),
                new Case(
                        "a total that does not",
                        "tanker-collections",
                        rounds("T000800002594401"),
                        false,
                        "1202/0 CTL-02"),
                new Case("elements", "farm-register", register(x -> x), true, "800/0"),
                new Case(
                        "what looks like a record in comments",
                        "farm-register",
                        register(x -> x.replace("<r:name>", "<!-- <r:farm number='1'> --><r:name>")
                                .replace(
                                        "<r:place",
                                        "<!-- <r:farm <r:farm <r:farm <r:farm <r:farm <r:farm > --><r:place")),
                        false,
                        "800/0"),
                new Case(
                        "a key in two pieces",
                        "farm-register",
                        register(x -> x.replace(middle, "<r:farm number=\"3\">")),
                        false,
                        "800/1"),
                new Case(
                        "an end in the middle",
                        "farm-register",
                        register(x -> x.substring(0, x.indexOf(middle) + 90)),
                        false,
                        "401/1 XML-01"));
    }

    @ParameterizedTest
    @MethodSource("cases")
    void pieces_say_the_same_or_nothing(Case c) throws IOException {
        Layout layout = Definitions.layout(Files.readString(Path.of("../demo/" + c.layout + ".layout.json")));
        byte[] bytes = c.file.getBytes(
                layout.name().equals("farm-register") ? StandardCharsets.UTF_8 : StandardCharsets.ISO_8859_1);
        WholeFile whole = new WholeFile(() -> new MemorySource(bytes), layout, LocalDate.EPOCH, () -> false);
        Summary one = whole.inOne();
        String halt = one.halt() == null ? "" : " " + one.halt().code();
        assertThat(one.records() + "/" + one.refused() + halt).isEqualTo(c.says);
        for (int pieces = 2; pieces < 9; pieces++) {
            Optional<Summary> side = whole.inPieces(pieces, 1000);
            if (c.inPieces) {
                assertThat(side).as("%d pieces", pieces).contains(one);
            } else {
                assertThat(side)
                        .as("%d pieces", pieces)
                        .satisfiesAnyOf(
                                s -> assertThat(s).isEmpty(), s -> assertThat(s).contains(one));
            }
        }
        assertThat(whole.check()).isEqualTo(one);
    }
}
