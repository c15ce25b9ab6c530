package ninepin.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.WholeFile;
import ninepin.core.format.delimited.HeaderRow;
import ninepin.core.format.fixedlength.copybook.CopybookLayout;
import ninepin.core.format.xml.proposer.SchemaLayout;
import ninepin.core.infer.Proposal;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.testing.SpoiltBytes;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Whatever is given to propose a layout from, good or spoilt: a layout that is whole, can be written down and read again, and
 * reads the sample without an exception; or a refusal in words.
 */
class AnySampleTest {

    private static final int TRIES = Integer.getInteger("ninepin.samples", 400);

    enum Given {
        FIXED,
        DELIMITED,
        WIDE,
        XML,
        SCHEMA,
        COPYBOOK,
        HEADER
    }

    private static byte[] good(Given given) throws IOException {
        return switch (given) {
            case FIXED ->
                """
                H20261123R07OBC 4.2                        \r
                R000001LK-1049 Edda Brück      202611230417\r
                C001000900428003243040+261123-00001Hof Süd \r
                C002000950443003118034-261123-00002        \r
                R000002LK-1050 Tom Ashby       202611230517\r
                C001000900428000010040-261123-00001        \r
                T000003000006371                           \r
                """
                        .getBytes(StandardCharsets.ISO_8859_1);
            case DELIMITED ->
                "Sample;Farm;Value;Taken;Remark\r\nS-1;38;4,45;23.11.2026;\"Kühlung \"\"2\"\" geprüft\"\r\nS-2;39;3,72;03.04.2026;\r\nS-3;38;-1,00;31.12.2026;x\r\n"
                        .getBytes(Charset.forName("windows-1252"));
            case WIDE -> "\ufeffFarm\tHof Süd\t🥛\r\n1\ta\tx\r\n2\t\u2028\ty\r\n".getBytes(StandardCharsets.UTF_16LE);
            case XML ->
                "<?xml version='1.0'?><r:all xmlns:r='urn:r'><r:farm no='1'><r:name>Söll</r:name><r:cow>4</r:cow><r:cow>5</r:cow></r:farm><r:farm no='2'><r:name>A &amp; B</r:name></r:farm></r:all>"
                        .getBytes(StandardCharsets.UTF_8);
            case SCHEMA -> Files.readAllBytes(Path.of("../demo/farm-register.xsd"));
            case COPYBOOK -> Files.readAllBytes(Path.of("../demo/collections.cpy"));
            case HEADER -> "Farm;\"Hof; Süd\";Amount;Taken on".getBytes(StandardCharsets.UTF_8);
        };
    }

    private static Proposal proposed(Given given, byte[] bytes) throws IOException {
        String text = new String(bytes, StandardCharsets.UTF_8);
        return switch (given) {
            case SCHEMA ->
                SchemaLayout.propose(
                        List.of(
                                new SchemaDocument("farm-register.xsd", text),
                                new SchemaDocument("herd.xsd", Files.readString(Path.of("../demo/herd.xsd")))),
                        "proposed",
                        null);
            case COPYBOOK -> CopybookLayout.propose(text, FileCharset.IBM_037, Set.of(), "proposed", null);
            case HEADER -> HeaderRow.propose(text, "proposed", null);
            default -> Proposals.of(new MemorySource(bytes), "proposed", null);
        };
    }

    @ParameterizedTest
    @EnumSource
    @Timeout(value = 10, unit = TimeUnit.MINUTES)
    void a_layout_or_a_refusal_and_nothing_else(Given given) throws IOException {
        long first = new Random().nextLong(1_000_000_000);
        int whole = 0;
        for (int i = 0; i < TRIES; i++) {
            long seed = first + i;
            byte[] bytes = i == 0 ? good(given) : SpoiltBytes.of(good(given), new Random(seed));
            try {
                Layout layout = proposed(given, bytes).layout();
                assertThat(Definitions.layout(Definitions.write(layout))).isEqualTo(layout);
                if (Formats.open(new MemorySource(bytes), layout).fault() == null) {
                    new WholeFile(() -> new MemorySource(bytes), layout, LocalDate.EPOCH, () -> false).check();
                }
                whole++;
            } catch (DefinitionException e) {
                assertThat(i).as("the good one is refused: %s", e.getMessage()).isPositive();
                assertThat(e.getMessage()).isNotBlank();
            } catch (RuntimeException | AssertionError e) {
                throw new AssertionError(
                        "with the seed " + seed + ": " + new String(bytes, StandardCharsets.ISO_8859_1), e);
            }
        }
        assertThat(whole).isPositive();
    }
}
