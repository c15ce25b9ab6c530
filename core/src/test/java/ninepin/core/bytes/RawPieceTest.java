package ninepin.core.bytes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import ninepin.core.layout.FileCharset;
import org.junit.jupiter.api.Test;

class RawPieceTest {

    /** Lines as people count them, found one by one. */
    private static List<Integer> starts(byte[] bytes) {
        List<Integer> starts = new ArrayList<>();
        for (int i = 0; i < bytes.length; i++) {
            boolean begins = i == 0 || bytes[i - 1] == '\n' || bytes[i - 1] == '\r' && bytes[i] != '\n';
            if (begins) {
                starts.add(i);
            }
        }
        return starts;
    }

    @Test
    void every_line_and_every_byte_is_found_whatever_the_steps_of_the_index() throws IOException {
        Random random = new Random(7);
        for (int n = 0; n < 400; n++) {
            byte[] bytes = new byte[random.nextInt(60)];
            for (int i = 0; i < bytes.length; i++) {
                bytes[i] = (byte) "ab\r\n".charAt(random.nextInt(4));
            }
            MemorySource source = new MemorySource(bytes);
            List<Integer> starts = starts(bytes);
            LineIndex index = new LineIndex(0, StandardCharsets.UTF_8, 1 + random.nextInt(9));
            if (random.nextBoolean()) {
                assertThat(index.lines(source)).isEqualTo(starts.size());
            }
            for (int line = 1; line <= starts.size(); line++) {
                assertThat(index.offsetOf(source, line)).as("line %d", line).isEqualTo((long) starts.get(line - 1));
            }
            int line = 0;
            for (int at = 0; at < bytes.length; at++) {
                line += starts.contains(at) ? 1 : 0;
                assertThat(index.lineAt(source, at)).as("byte %d", at).isEqualTo(line);
            }
            assertThat(index.lines(source)).isEqualTo(starts.size());
        }
    }

    @Test
    void a_piece_shows_lines_with_their_places_and_goes_on_behind_them() throws IOException {
        MemorySource source = new MemorySource("Söll;1\r\n\r\nHof\n".getBytes(StandardCharsets.UTF_8));
        LineIndex index = new LineIndex(0, StandardCharsets.UTF_8);
        RawPiece first = RawPiece.of(source, index, StandardCharsets.UTF_8, 3, 2);
        assertThat(first.lines())
                .containsExactly(
                        new RawPiece.RawLine(1, 0, 7, "Söll;1", false), new RawPiece.RawLine(2, 9, 0, "", false));
        assertThat(RawPiece.of(source, index, StandardCharsets.UTF_8, first.next(), 9)
                        .lines())
                .containsExactly(new RawPiece.RawLine(3, 11, 3, "Hof", false));
    }

    @Test
    void lines_of_utf_16_are_found_in_either_order_of_its_bytes() throws IOException {
        for (Charset order : List.of(StandardCharsets.UTF_16LE, StandardCharsets.UTF_16BE)) {
            // A character with the byte of a line feed in it ends no line.
            MemorySource source = new MemorySource("\ufeffSöll\r\nਊ\n\nHof".getBytes(order));
            LineIndex index = new LineIndex(0, order);
            assertThat(index.lines(source)).isEqualTo(4);
            assertThat(index.offsetOf(source, 4)).isEqualTo(20);
            assertThat(index.lineAt(source, 15)).isEqualTo(2);
            assertThat(RawPiece.of(source, index, order, 14, 9).lines())
                    .containsExactly(
                            new RawPiece.RawLine(2, 14, 2, "ਊ", false),
                            new RawPiece.RawLine(3, 18, 0, "", false),
                            new RawPiece.RawLine(4, 20, 6, "Hof", false));
        }
    }

    @Test
    void blocks_are_lines_and_bytes_are_found_across_the_pieces_of_a_search() throws IOException {
        byte[] bytes = new byte[700_003];
        bytes[262_143] = 'x';
        bytes[262_144] = 'y';
        bytes[700_001] = 'x';
        bytes[700_002] = 'y';
        MemorySource source = new MemorySource(bytes);
        LineIndex index = new LineIndex(100, FileCharset.IBM_037.charset());
        assertThat(index.lines(source)).isEqualTo(7_001);
        byte[] wanted = {'x', 'y'};
        RawPiece.Hit hit = RawPiece.find(source, index, wanted, 0);
        assertThat(hit).isEqualTo(new RawPiece.Hit(262_143, 2_622, 262_143));
        assertThat(RawPiece.find(source, index, wanted, hit.offset() + 1).offset())
                .isEqualTo(700_001);
        assertThat(RawPiece.find(source, index, wanted, 700_002)).isEqualTo(new RawPiece.Hit(-1, -1, 700_003));
    }
}
