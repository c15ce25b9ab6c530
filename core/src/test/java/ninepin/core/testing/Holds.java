package ninepin.core.testing;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * Says of a test that it holds what the product can do with files of some formats. {@code FormatTableTest} makes the table of
 * {@code docs/formats.md} of it, in which no cell may be empty.
 */
@Target(ElementType.METHOD)
@Retention(RetentionPolicy.SOURCE)
public @interface Holds {

    /** What can be done with a file. */
    enum Capability {
        READ("read and check"),
        WRITE("write, and read back the same"),
        PROPOSE("propose a layout"),
        BENCH("show on the bench"),
        REJECTS("reject, correct, send again, by screen and by file"),
        FOLLOW("follow a record"),
        RESTART_READING("killed while reading, go on"),
        RESTART_WRITING("broken off while writing, go on"),
        PROOF("keep as a proof"),
        COMMAND_LINE("run from the command line");

        private final String words;

        Capability(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** The formats, by the kind that stands in a layout. */
    String[] formats();

    Capability[] value();
}
