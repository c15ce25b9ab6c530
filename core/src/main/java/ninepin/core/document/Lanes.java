package ninepin.core.document;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.IntStream;
import ninepin.core.layout.DefinitionException;

/**
 * Conditions that send documents to their own deliveries, in order; the last one is for all others.
 *
 * @param take which of the lanes whose condition holds
 * @param lanes the lanes
 */
public record Lanes(Take take, List<Lane> lanes) {

    public static final Lanes NONE = new Lanes(Take.FIRST, List.of());

    /** The most lanes. */
    public static final int MOST = 60;

    /** Which of the lanes a document takes. */
    public enum Take {
        /** The first whose condition holds. */
        FIRST,
        /** Every one whose condition holds. */
        EVERY;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * A lane.
     *
     * @param name its name
     * @param when its condition, a formula seen from the head of a document; null for the last, which takes all others
     */
    public record Lane(String name, String when) {
        public Lane {
            if (name == null || name.isBlank() || name.length() > 60) {
                throw new DefinitionException("lanes.name", "a lane has a name of at most 60 characters");
            }
            name = name.strip();
            when = when == null || when.isBlank() ? null : when;
        }
    }

    public Lanes {
        take = take == null ? Take.FIRST : take;
        lanes = lanes == null ? List.of() : List.copyOf(lanes);
        if (lanes.size() > MOST) {
            throw new DefinitionException("lanes", "there are at most " + MOST + " lanes");
        }
        Set<String> names = new HashSet<>();
        for (int i = 0; i < lanes.size(); i++) {
            boolean last = i == lanes.size() - 1;
            if (!names.add(lanes.get(i).name().toLowerCase(Locale.ROOT))) {
                throw new DefinitionException("lanes." + lanes.get(i).name(), "stands twice");
            }
            if (last != (lanes.get(i).when() == null)) {
                throw new DefinitionException(
                        "lanes." + lanes.get(i).name(),
                        last ? "the last lane takes all others and has no condition" : "has no condition");
            }
        }
    }

    /** The index of a lane by its name, or -1. */
    public int indexOf(String name) {
        return IntStream.range(0, lanes.size())
                .filter(i -> lanes.get(i).name().equals(name))
                .findFirst()
                .orElse(-1);
    }
}
