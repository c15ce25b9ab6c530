package ninepin.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Format;
import ninepin.core.testing.Holds;
import org.junit.jupiter.api.Test;

/** What the product can do with files of each format, and the tests that hold it. */
class FormatTableTest {

    private static final Path PAGE = Path.of("../docs/formats.md");
    private static final Pattern HOLDS = Pattern.compile(
            "@Holds\\(\\s*(?:value = )?(?<can>[^)]*?),\\s*formats = (?<formats>[^)]*)\\)[^;]*?void (?<test>\\w+)\\(");
    private static final Pattern WORD = Pattern.compile("\\w+");
    private static final Pattern QUOTED = Pattern.compile("\"([^\"]*)\"");

    private record Cell(Holds.Capability capability, String format) implements Comparable<Cell> {
        @Override
        public int compareTo(Cell o) {
            int c = capability.compareTo(o.capability);
            return c != 0 ? c : format.compareTo(o.format);
        }
    }

    private static Map<Cell, Set<String>> cells() throws IOException {
        Map<Cell, Set<String>> cells = new TreeMap<>();
        for (String module : List.of("core", "server", "e2e")) {
            try (Stream<Path> files = Files.walk(Path.of("..", module, "src", "test", "java"))) {
                files.filter(f -> f.toString().endsWith("Test.java")).forEach(f -> read(f, cells));
            }
        }
        return cells;
    }

    private static void read(Path file, Map<Cell, Set<String>> cells) {
        String name = file.getFileName().toString().replace(".java", "");
        Matcher holds = HOLDS.matcher(text(file));
        while (holds.find()) {
            List<Holds.Capability> can = WORD.matcher(holds.group("can"))
                    .results()
                    .map(word -> word.group())
                    .filter(word -> Arrays.stream(Holds.Capability.values())
                            .anyMatch(c -> c.name().equals(word)))
                    .map(Holds.Capability::valueOf)
                    .toList();
            assertThat(can).as("capabilities of %s", holds.group()).isNotEmpty();
            QUOTED.matcher(holds.group("formats"))
                    .results()
                    .map(format -> format.group(1))
                    .forEach(format -> can.forEach(c -> cells.computeIfAbsent(new Cell(c, format), k -> new TreeSet<>())
                            .add(name + "." + holds.group("test"))));
        }
    }

    private static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** As they stand in layouts. */
    private static List<String> formats() {
        return Arrays.stream(Format.class.getPermittedSubclasses())
                .map(Definitions::kindOfFormat)
                .toList();
    }

    @Test
    void each_cell_names_the_tests_that_hold_it() throws IOException {
        Map<Cell, Set<String>> cells = cells();
        for (Holds.Capability capability : Holds.Capability.values()) {
            for (String format : formats()) {
                assertThat(cells.get(new Cell(capability, format)))
                        .as("tests that hold: %s, %s", format, capability.words())
                        .isNotEmpty();
            }
        }
        assertThat(cells.keySet().stream().map(Cell::format))
                .as("formats that there are")
                .isSubsetOf(formats());
        String table = table(cells);
        if (Boolean.getBoolean("ninepin.write-pages")) {
            String page = Files.readString(PAGE);
            Files.writeString(PAGE, page.substring(0, page.indexOf("| ")) + table);
        }
        assertThat(PAGE)
                .content()
                .as("./ninepin test -Dninepin.write-pages=true writes it")
                .endsWith(table);
    }

    private static String table(Map<Cell, Set<String>> cells) {
        List<String> formats = formats();
        StringBuilder table = new StringBuilder("| | " + String.join(" | ", formats) + " |\n");
        table.append("| --- ".repeat(formats.size() + 1)).append("|\n");
        for (Holds.Capability capability : Holds.Capability.values()) {
            table.append("| **").append(capability.words()).append("** |");
            for (String format : formats) {
                table.append(cells.get(new Cell(capability, format)).stream()
                        .map(test -> "`" + test.replace(".", "`<br>`") + "`")
                        .collect(Collectors.joining("<br>", " ", " |")));
            }
            table.append('\n');
        }
        return table.toString();
    }
}
