package ninepin.server.connections;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.List;

/** Knows who needs a connection. */
public interface ConnectionUse {

    /** What would no longer work without a connection. */
    List<Use> usesOf(String connection);

    /** One that needs a connection: what it is, in words, and its name. */
    record Use(Kind kind, String name) {

        @Override
        public String toString() {
            return "the " + kind.word() + " " + name;
        }
    }

    enum Kind {
        JOB("job"),
        CODE_LIST("code list");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        @JsonValue
        public String word() {
            return word;
        }
    }
}
