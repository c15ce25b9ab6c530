package ninepin.core.run;

import static ninepin.core.testing.Quality.HEADER;
import static ninepin.core.testing.Quality.line;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Check;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.Quality;
import ninepin.core.testing.SmallDisk;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.node.ObjectNode;

class RunTest {

    @TempDir
    Path folder;

    private static String lines(int from, int to) {
        return IntStream.range(from, to).mapToObj(Quality::line).collect(Collectors.joining());
    }

    @Test
    void a_file_becomes_rows_and_every_record_is_accounted_for() throws IOException {
        RunFixture f = new RunFixture(folder, "run_basic", Quality.job(Mode.ADD, null));
        f.file(HEADER
                + "a1;7;FAT;3,75;03.11.2026;\"two\r\nlines; \"\"quoted\"\"\"\r\n"
                + ";7;FAT;1;03.11.2026;\r\n"
                + "a2;12O0;XYZ;3;11.23.2026;x\r\n"
                + "\r\n"
                + "a3;5;PROT;11;03.11.2026;  \r\n"
                + "a4;5;PROT\r\n"
                + "a1;9;FAT;2;03.11.2026;again\r\n");
        RunOutcome outcome = f.run();
        assertThat(outcome.message()).isNull();
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(outcome.tally()).isEqualTo(new Tally(6, 2, 2, 0, 0, 4, 0, 1, 1));
        assertThat(f.rows("SELECT sample, farm, value, taken_on, remark, run, line FROM quality_result ORDER BY line"))
                .containsExactly("A1|7|3.75|2026-11-03|two\r\nlines; \"quoted\"|7|2", "A3|5|11.00|2026-11-03|null|7|7");
        assertThat(f.messages())
                .containsExactly(
                        "reject line 4 · Sample (column 1): found nothing, expected a value. [REQ-01]",
                        "reject line 5 · Farm (columns 4–7): found \"12O0\", expected a whole number."
                                + " Character 3 is the letter O, not the digit 0. [NUM-01]",
                        "reject line 5 · Test (columns 9–11): found \"XYZ\", expected one of FAT, PROT. [LST-01]",
                        "reject line 5 · Taken (columns 15–24): found \"11.23.2026\", expected a day of the calendar,"
                                + " written dd.MM.yyyy. There is no month 23. Day and month may have changed places."
                                + " [DAT-02]",
                        "note line 7 · Value (columns 11–12): found \"11\", expected from 0 to 10. [RNG-01]",
                        "reject line 8: found 3 columns, expected 6 columns. The line may be cut short or broken, or a"
                                + " line break inside text may lack its quotes. [ROW-01]",
                        "reject line 9: found a key that is there already, expected a new key."
                                + " The database says: Duplicate entry 'A1-FAT' for key 'PRIMARY' [TGT-02]");
        assertThat(new String(f.journal().get(4).raw(), Quality.CHARSET)).isEqualTo("a1;9;FAT;2;03.11.2026;again");
    }

    @Test
    void a_record_for_which_a_formula_has_no_value_is_refused_with_the_values() throws IOException {
        Job plain = Quality.job(Mode.ADD, null);
        Rule share = new Rule("value", new Origin.OfFormula("Value / (Farm - 7)"), null, null);
        List<Rule> rules = plain.deliveries().get(0).shaping().stream()
                .map(r -> r.target().equals("value") ? share : r)
                .toList();
        Delivery delivery = new Delivery(null, plain.deliveries().get(0).to(), rules);
        Job job = Definitions.job(Definitions.write(plain)
                .replaceAll("(?s)\"deliveries\".*", "\"deliveries\": [" + Definitions.write(delivery) + "]}"));
        RunFixture f = new RunFixture(folder, "run_formula", job);
        f.file(HEADER + "a;8;FAT;1,50;03.11.2026;\r\n" + "b;7;FAT;2;03.11.2026;\r\n" + "c;9;FAT;3;03.11.2026;\r\n");
        RunOutcome outcome = f.run();
        assertThat(outcome.message()).isNull();
        assertThat(outcome.tally()).isEqualTo(new Tally(3, 2, 2, 0, 0, 1, 0, 0, 0));
        assertThat(f.rows("SELECT sample, value FROM quality_result ORDER BY sample"))
                .containsExactly("A|1.50", "C|1.50");
        assertThat(f.messages())
                .containsExactly("reject line 3 → value: found a division by zero, with Value \"2\", Farm \"7\","
                        + " expected a value of Value / (Farm - 7). [FML-01]");
    }

    @Test
    void changing_by_key_counts_what_was_added_changed_and_left_and_the_later_line_counts() throws IOException {
        RunFixture f = new RunFixture(folder, "run_change", Quality.job(Mode.ADD_OR_CHANGE, null));
        f.server.execute(
                "run_change",
                "INSERT INTO quality_result VALUES ('A',1,'FAT',1,'2026-11-03',NULL,7,2),('B',1,'FAT',1,'2026-11-03',NULL,7,9)");
        f.file(HEADER
                + "a;1;FAT;1;03.11.2026;\r\n" // as it is there
                + "b;1;FAT;2;03.11.2026;\r\n" // changes
                + "c;1;FAT;1;03.11.2026;\r\n" // new
                + "c;1;FAT;5;03.11.2026;later\r\n"); // changes what this file added
        RunOutcome outcome = f.run();
        assertThat(outcome.tally()).isEqualTo(new Tally(4, 4, 1, 2, 1, 0, 0, 0, 0));
        assertThat(f.rows("SELECT sample, value, remark FROM quality_result ORDER BY sample"))
                .containsExactly("A|1.00|null", "B|2.00|null", "C|5.00|later");
    }

    @Test
    void rows_the_server_would_cut_or_change_are_refused_one_by_one() throws IOException {
        RunFixture f = new RunFixture(folder, "run_refused", Quality.job(Mode.ADD, null));
        f.server.execute(
                "run_refused",
                "ALTER TABLE quality_result MODIFY remark VARCHAR(5), MODIFY value DECIMAL(3,1), MODIFY farm TINYINT NOT NULL");
        f.file(HEADER
                + "ok;7;FAT;3,5;03.11.2026;12345\r\n"
                + "long;7;FAT;3,5;03.11.2026;123456\r\n"
                + "fine;7;FAT;3,55;03.11.2026;\r\n"
                + "large;200;FAT;3,5;03.11.2026;\r\n"
                + "okay;7;FAT;3,5;03.11.2026;\r\n");
        RunOutcome outcome = f.run();
        assertThat(outcome.tally()).isEqualTo(new Tally(5, 2, 2, 0, 0, 3, 0, 0, 0));
        assertThat(f.rows("SELECT sample FROM quality_result ORDER BY sample")).containsExactly("OK", "OKAY");
        assertThat(f.messages()).allMatch(m -> m.contains("[TGT-01]")).hasSize(3);
    }

    @Test
    void lanes_that_meet_on_a_key_end_as_one_lane_would() throws IOException {
        Random random = new Random(11);
        StringBuilder file = new StringBuilder(HEADER);
        for (int i = 0; i < 3_000; i++) {
            file.append(line(random.nextInt(20) == 0 ? random.nextInt(3_000) : 10_000 + i));
        }
        RunFixture f = new RunFixture(folder, "run_lanes", Quality.job(Mode.ADD, null)).file(file.toString());
        f.chunkRows = 50;
        RunOutcome outcome = f.run();
        assertThat(outcome.message()).isNull();
        assertThat(outcome.tally().balances()).isTrue();
        // The first line of each key is in the table, every later one is a reject.
        assertThat(f.rows("SELECT COUNT(*) FROM quality_result"))
                .containsExactly("" + outcome.tally().delivered());
        List<Long> rejectedLines = f.journal().stream().map(JournalEntry::line).toList();
        List<Long> expected = laterLines(file.toString());
        assertThat(rejectedLines).isEqualTo(expected);
    }

    private static List<Long> laterLines(String file) {
        java.util.Set<String> seen = new java.util.HashSet<>();
        List<Long> later = new java.util.ArrayList<>();
        String[] lines = file.split("\r\n");
        for (int i = 1; i < lines.length; i++) {
            if (!seen.add(lines[i].substring(0, lines[i].indexOf(';')))) {
                later.add(i + 1L);
            }
        }
        return later;
    }

    @Test
    void stopped_at_any_commit_it_goes_on_to_the_same_end() throws IOException {
        RunFixture f = new RunFixture(folder, "run_stop", Quality.job(Mode.ADD, null));
        f.layout = Quality.uniqueSampleAndTest(f.job).withChecks(Quality.layout());
        StringBuilder file = new StringBuilder(HEADER);
        for (int i = 0; i < 2_000; i++) {
            file.append(i % 37 == 0 ? "bad;0;?;x;y;z\r\n" : i % 41 == 0 ? line(i - 1) : line(i));
        }
        f.file(file.toString());
        int starts = f.runInPieces();
        RunOutcome outcome = f.last;
        assertThat(starts).isGreaterThan(3);
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FINISHED);
        String tally = outcome.tally().toString();
        List<String> messages = f.messages();
        List<String> rows = f.rows("SELECT * FROM quality_result ORDER BY line");

        RunFixture undisturbed = new RunFixture(folder.resolve("."), "run_stop_once", f.job);
        undisturbed.layout = f.layout;
        undisturbed.journal = folder.resolve("other.ndjson");
        assertThat(undisturbed.run().tally()).hasToString(tally);
        assertThat(undisturbed.messages()).isEqualTo(messages).anyMatch(m -> m.contains("UNQ-01"));
        assertThat(undisturbed.rows("SELECT * FROM quality_result ORDER BY line"))
                .isEqualTo(rows);
        assertThat(f.run().tally()).as("a complete run does nothing more").hasToString(tally);
    }

    @Test
    void too_many_rejects_halt_at_a_commit_and_a_restart_may_go_on() throws IOException {
        RunFixture f = new RunFixture(folder, "run_limit", Quality.job(Mode.ADD, new Limits(3L, null)));
        f.file(HEADER + lines(0, 10) + "x;x;x;x;x;x\r\n".repeat(5) + lines(10, 20));
        RunOutcome halted = f.run();
        assertThat(halted.state()).isEqualTo(RunOutcome.State.HALTED);
        assertThat(halted.message()).startsWith("Halted: more than 3 rejects.");
        assertThat(halted.tally()).isEqualTo(new Tally(14, 10, 10, 0, 0, 4, 0, 0, 0));
        f.accepted = halted.tally();
        assertThat(f.run().tally()).isEqualTo(new Tally(25, 20, 20, 0, 0, 5, 0, 0, 0));

        RunFixture notes = new RunFixture(folder, "run_notes", Quality.job(Mode.ADD, new Limits(null, null, null, 1L)));
        notes.journal = folder.resolve("notes.ndjson");
        String high = "N%d;5;PROT;11;03.11.2026;\r\n";
        RunOutcome noted = notes.file(
                        HEADER + lines(0, 5) + high.formatted(1) + lines(5, 9) + high.formatted(2) + lines(9, 12))
                .run();
        assertThat(noted.message()).startsWith("Halted: more than 1 note.");
        assertThat(noted.tally()).isEqualTo(new Tally(11, 11, 11, 0, 0, 0, 0, 0, 2));
        notes.accepted = noted.tally();
        assertThat(notes.run().tally()).isEqualTo(new Tally(14, 14, 14, 0, 0, 0, 0, 0, 2));

        RunFixture percent = new RunFixture(folder, "run_percent", Quality.job(Mode.ADD, new Limits(null, 10)));
        percent.journal = folder.resolve("percent.ndjson");
        percent.file(HEADER + "x;x;x;x;x;x\r\n".repeat(50) + lines(0, 80));
        RunOutcome second = percent.run();
        assertThat(second.message()).startsWith("Halted: more than 10 % rejects.");
        assertThat(second.tally()).isEqualTo(new Tally(100, 50, 50, 0, 0, 50, 0, 0, 0));
    }

    @Test
    void a_halting_finding_stops_before_its_record() throws IOException {
        RunFixture f = new RunFixture(folder, "run_halt", Quality.job(Mode.ADD, null));
        Job job = f.job;
        f.job = new Job(
                job.name(),
                null,
                null,
                null,
                job.layout(),
                List.of(new Job.FieldChecks("Farm", List.of(new Check.Range(null, "500", Severity.HALT)))),
                null,
                null,
                job.deliveries(),
                null,
                null,
                null,
                null,
                null);
        f.file(HEADER + lines(0, 5) + "z;600;FAT;1;03.11.2026;\r\n" + lines(6, 9));
        RunOutcome outcome = f.run();
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.HALTED);
        assertThat(outcome.halt().message())
                .isEqualTo("line 7 · Farm (columns 3–5): found \"600\", expected at most 500. [RNG-01]");
        assertThat(outcome.tally()).isEqualTo(new Tally(5, 5, 5, 0, 0, 0, 0, 0, 0));
        f.job = job;
        assertThat(f.run().tally())
                .as("with the check mended it goes on")
                .isEqualTo(new Tally(9, 9, 9, 0, 0, 0, 0, 0, 0));
    }

    @Test
    void bad_input_gives_a_clear_end_and_loses_nothing() throws IOException {
        RunFixture f = new RunFixture(folder, "run_bad", Quality.job(Mode.ADD, null));
        f.file("");
        assertThat(f.run().message())
                .isEqualTo("line 1: found an empty file (0 bytes), expected a header row."
                        + " Ask the sender for the file again. [FIL-01]");
        f.file("Sample;Farm;Test;Valeu;Taken;Remark\r\n" + line(1));
        assertThat(f.run().message())
                .contains("expected also a column Value. The nearest column is \"Valeu\". [HDR-02]");
        f.file(IntStream.range(0, 10_000).mapToObj(i -> "c" + i).collect(Collectors.joining(";")));
        assertThat(f.run().message()).contains("found 10000 columns: c0, c1,").contains("[HDR-02]");
        Files.write(f.file, ("\ufeff" + HEADER).getBytes(StandardCharsets.UTF_16LE));
        assertThat(f.run().message()).contains("the byte order mark of UTF-16").contains("[CHR-03]");
        Files.delete(f.file);
        assertThat(f.run().message()).contains("quality.csv is gone");
        assertThat(f.rows("SELECT COUNT(*) FROM quality_result")).containsExactly("0");

        f.file(HEADER + "a\0b;1;FAT;1;03.11.2026;x\r\n" + "q;1;FAT;1;03.11.2026;\u0081\r\n".replace('\u0081', '?'));
        byte[] bytes = Files.readAllBytes(f.file);
        bytes[bytes.length - 3] = (byte) 0x81;
        Files.write(f.file, bytes);
        assertThat(f.run().tally()).isEqualTo(new Tally(2, 0, 0, 0, 0, 2, 0, 0, 0));
        assertThat(f.messages()).anyMatch(m -> m.contains("Byte 2 is NUL")).anyMatch(m -> m.contains("[CHR-01]"));
    }

    @Test
    void a_header_alone_is_noted() throws IOException {
        RunFixture f = new RunFixture(folder, "run_header", Quality.job(Mode.ADD, null)).file(HEADER);
        assertThat(f.run().state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.messages()).singleElement().asString().contains("[FIL-05]");
    }

    @Test
    void trouble_with_disk_database_and_table_fails_the_run_and_a_restart_completes_it() throws IOException {
        RunFixture f = new RunFixture(folder, "run_trouble", Quality.job(Mode.ADD, null));
        f.file(HEADER + lines(0, 300) + "x;x;x;x;x;x\r\n" + lines(300, 600));
        Path journal = f.journal;
        Path full = Files.createDirectory(folder.resolve("full"));
        f.journal = full.resolve("journal");
        try (SmallDisk small = SmallDisk.at(full, "4k", ProcessHandle.current().pid(), 1)) {
            small.fill();
            assertThat(f.run().message())
                    .containsAnyOf("No space left on device", "File too large")
                    .contains("Make room.");
        }
        f.journal = journal;
        long rowsBefore =
                Long.parseLong(f.rows("SELECT COUNT(*) FROM quality_result").get(0));
        assertThat(rowsBefore).isEqualTo(300);

        Thread rename = new Thread(() -> f.server.execute("run_trouble", "RENAME TABLE quality_result TO away"));
        f.chunkRows = 10;
        f.listener = new RunListener() {
            @Override
            public void committed(Mark mark) {
                if (mark.commits() == 4) {
                    rename.start();
                }
            }
        };
        RunOutcome dropped = f.run();
        assertThat(dropped.state()).isEqualTo(RunOutcome.State.FAILED);
        assertThat(dropped.message()).contains("the table is not there");
        f.listener = RunListener.NONE;
        f.server.execute("run_trouble", "RENAME TABLE away TO quality_result");

        try (DatabaseTarget refused = new DatabaseTarget(
                new DatabaseAddress("127.0.0.1", f.server.port(), "run_trouble", "nobody", "wrong-secret"),
                TablesSupport.loadsOf(f.job),
                "k")) {
            RunOutcome login = new Run(
                            f.job.plan(
                                    f.layout,
                                    ShapingContext.of(new RunFacts(0, "x", LocalDate.EPOCH, Map.of())),
                                    Tally.ZERO),
                            f.file,
                            folder.resolve("j2"),
                            refused,
                            RunListener.NONE,
                            new StopSignal())
                    .execute();
            assertThat(login.message()).contains("refuses the login").doesNotContain("wrong-secret");
        }

        RunOutcome outcome = f.run();
        assertThat(outcome.tally()).isEqualTo(new Tally(601, 600, 600, 0, 0, 1, 0, 0, 0));
        assertThat(f.messages()).hasSize(4);
    }

    @Test
    void a_file_that_changed_since_the_run_began_is_not_mixed_in() throws IOException {
        RunFixture f = new RunFixture(folder, "run_changed", Quality.job(Mode.ADD, new Limits(0L, null)));
        f.file(HEADER + lines(0, 5) + "x;x;x;x;x;x\r\n" + lines(5, 9));
        f.run();
        try (RandomAccessFile file = new RandomAccessFile(f.file.toFile(), "rw")) {
            file.seek(HEADER.length());
            file.write('Z');
        }
        assertThat(f.run().code()).isEqualTo("FIL-02");
    }

    @Test
    void blank_rows_at_the_place_of_a_restart_are_counted_once() throws IOException {
        Job job = Quality.uniqueSampleAndTest(Quality.job(Mode.ADD, null));
        StringBuilder file = new StringBuilder(HEADER);
        // So many between two records that a run is asked to stop while it passes over them.
        for (int i = 0; i < 12; i++) {
            file.append(Quality.line(i)).append(";;;;;\r\n".repeat(60_000));
        }
        RunFixture f = new RunFixture(folder, "run_blank", job).file(file.toString());
        f.chunkRows = 1;
        assertThat(f.runInPieces()).isGreaterThan(1);
        assertThat(f.last.tally().blank()).isEqualTo(720_000);
        assertThat(f.last.tally().delivered()).isEqualTo(12);
    }

    /** What is only loaded is told as such: nobody shows it as delivered, and a halt leaves nothing of it. */
    @Test
    void a_file_that_is_delivered_whole_is_committed_once() throws IOException {
        ObjectNode definition = Definitions.mapper().valueToTree(Quality.job(Mode.ADD, null));
        Job whole = Definitions.job(definition.put("commit", "whole").toString());
        RunFixture f = new RunFixture(folder, "run_whole", whole).file(HEADER + lines(0, 500));
        f.chunkRows = 50;
        List<Long> committed = new java.util.ArrayList<>();
        List<Long> loaded = new java.util.ArrayList<>();
        f.listener = new RunListener() {
            @Override
            public void committed(Mark mark) {
                committed.add(mark.tally().read());
            }

            @Override
            public void loaded(Mark mark) {
                loaded.add(mark.tally().read());
            }
        };
        assertThat(f.run().state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(committed).containsExactly(500L);
        assertThat(loaded).hasSizeGreaterThan(5).doesNotContain(0L);
    }
}
