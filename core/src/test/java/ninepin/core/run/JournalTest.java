package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.layout.Severity;
import ninepin.core.record.Locator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class JournalTest {

    @TempDir
    Path folder;

    private static Finding finding(Locator at) {
        return new Finding(Severity.REJECT, "NUM-01", at, 7, "Value", null, 120, 3, "\"abc\"", "a number", "Check it.");
    }

    private static JournalEntry entry(Finding finding) {
        return new JournalEntry(true, 7, 8, 100, 40, new byte[] {'x'}, List.of(finding), 7, true, Fate.ROWS);
    }

    private List<JournalEntry> read(byte[] bytes) throws IOException {
        Path journal = Files.write(folder.resolve("journal"), bytes);
        List<JournalEntry> entries = new ArrayList<>();
        Journal.read(journal, 0, bytes.length, entries::add);
        return entries;
    }

    @Test
    void what_is_written_is_read_back_whatever_the_place() throws IOException {
        for (Locator at : List.of(Locator.columns(8, 3, 5), Locator.line(8), Locator.path(8, "$.results[6].value"))) {
            assertThat(read(Journal.line(entry(finding(at)))).get(0).findings()).containsExactly(finding(at));
        }
    }

    /** A run that was under way when Ninepin was replaced goes on with the journal it has. */
    @Test
    void a_journal_of_an_earlier_version_is_read() throws IOException {
        String line = new String(Journal.line(entry(finding(Locator.columns(8, 3, 5)))), StandardCharsets.UTF_8);
        assertThat(line).contains("\"line\":8,\"record\":7,\"field\":\"Value\"", "\"columnFrom\":3,\"columnTo\":5");
        String earlier = line.replace(",\"path\":null", "");
        assertThat(earlier).isNotEqualTo(line);
        assertThat(read(earlier.getBytes(StandardCharsets.UTF_8)).get(0).findings())
                .containsExactly(finding(Locator.columns(8, 3, 5)));
    }
}
