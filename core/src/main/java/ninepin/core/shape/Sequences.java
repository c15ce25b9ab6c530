package ninepin.core.shape;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Gives numbers of named sequences, each once. */
@FunctionalInterface
public interface Sequences {

    /**
     * The next number of a sequence.
     *
     * @param start the number that a sequence begins with of which none was drawn yet
     */
    long draw(String name, long start);

    /** Numbers cannot be had now. */
    final class Unavailable extends RuntimeException {
        private static final long serialVersionUID = 1L;

        private final boolean mayPass;

        /**
         * @param mayPass whether they may be had later without anybody changing anything
         */
        public Unavailable(String message, boolean mayPass) {
            super(message);
            this.mayPass = mayPass;
        }

        public boolean mayPass() {
            return mayPass;
        }
    }

    /** Sequences that begin anew, for looking at rows that are not delivered. */
    static Sequences anew() {
        Map<String, Long> next = new ConcurrentHashMap<>();
        return (name, start) -> next.merge(name, start, (last, first) -> last + 1);
    }
}
