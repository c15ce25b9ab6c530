package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class UniqueIndexTest {

    /** So many that segments move from the heap to files. */
    private static final int KEYS = 400_000;

    @Test
    void numbers_and_texts_are_remembered_with_their_first_line_and_never_taken_for_each_other() {
        UniqueIndex index = new UniqueIndex();
        for (int pass = 0; pass < 2; pass++) {
            for (int n = 0; n < KEYS; n++) {
                index.ask(n - KEYS / 2L);
                assertThat(index.add(n + 1L)).isEqualTo(pass == 0 ? 0 : n + 1);
                if (n % 10 == 0) {
                    byte[] text = Integer.toString(n).getBytes(StandardCharsets.US_ASCII);
                    index.ask(text, text.length);
                    assertThat(index.add(-n - 1L)).isEqualTo(pass == 0 ? 0 : -n - 1);
                }
            }
        }
        index.ask(7);
        index.put(99);
        assertThat(index.line()).isEqualTo(99);
        index.ask(Long.MAX_VALUE);
        assertThat(index.line()).isZero();
    }

    @Test
    void two_indexes_join_where_no_key_is_in_both() {
        UniqueIndex first = new UniqueIndex();
        UniqueIndex second = new UniqueIndex();
        for (int n = 0; n < 1000; n++) {
            first.ask(n);
            first.add(n + 1L);
            second.ask(n + 1000L);
            second.add(n + 1L);
        }
        assertThat(first.join(second)).isTrue();
        first.ask(1999);
        assertThat(first.line()).isEqualTo(1000);
        assertThat(first.join(second)).isFalse();
    }
}
