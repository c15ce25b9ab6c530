package ninepin.core.run;

import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * The records that targets have refused, counted by what they would have come to: for each place of a job, and once each for
 * all of them, since several places may refuse one record.
 *
 * @param places for each place, in the order of the job, its records
 * @param distinct the records that any place has refused
 */
public record RefusedByTargets(List<Map<Fate, Long>> places, Map<Fate, Long> distinct) {

    /** None, or those of a job with one place, which refuses a record once. */
    public static final RefusedByTargets NONE = new RefusedByTargets(List.of(), Map.of());

    public RefusedByTargets {
        places = List.copyOf(places);
        distinct = Map.copyOf(distinct);
    }

    /** Gathers them entry by entry. */
    public static final class Gathering {
        private final List<Map<Fate, Long>> places;
        private final Map<Long, Fate> records = new HashMap<>();

        /**
         * @param places how many places the job has
         */
        public Gathering(int places) {
            this.places = Stream.generate(() -> (Map<Fate, Long>) new EnumMap<Fate, Long>(Fate.class))
                    .limit(places)
                    .toList();
        }

        /** Adds an entry of the journal of a place, whether or not it is of this kind. */
        public void add(int place, JournalEntry entry) {
            if (entry.rejected() && entry.byTarget()) {
                places.get(place).merge(fate(entry), 1L, Long::sum);
                records.put(entry.record(), fate(entry));
            }
        }

        private static Fate fate(JournalEntry entry) {
            return entry.fate() == null ? Fate.ROWS : entry.fate();
        }

        public RefusedByTargets all() {
            Map<Fate, Long> distinct = new EnumMap<>(Fate.class);
            records.values().forEach(fate -> distinct.merge(fate, 1L, Long::sum));
            return new RefusedByTargets(places, distinct);
        }
    }

    /** The records of a place that would have come to this. */
    long of(int place, Fate fate) {
        return place < places.size() ? places.get(place).getOrDefault(fate, 0L) : 0;
    }

    /** All records that a place has refused. */
    long of(int place) {
        return place < places.size() ? sum(places.get(place)) : 0;
    }

    /** Those that any place has refused. */
    long distinct(Fate fate) {
        return distinct.getOrDefault(fate, 0L);
    }

    long records() {
        return sum(distinct);
    }

    private static long sum(Map<Fate, Long> counts) {
        return counts.values().stream().mapToLong(Long::longValue).sum();
    }
}
