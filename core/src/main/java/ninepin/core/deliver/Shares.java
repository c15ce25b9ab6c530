package ninepin.core.deliver;

import java.util.Map;
import java.util.TreeMap;

/**
 * What the account of a run is made of, where it has parts: how many documents and records took a lane, and how many
 * records were set aside for a reason.
 *
 * @param lanes for each lane its documents and records that are in the target
 * @param setAside for each reason the records set aside for it
 */
public record Shares(Map<String, Lane> lanes, Map<String, Long> setAside) {

    public static final Shares NONE = new Shares(Map.of(), Map.of());

    /**
     * The share of a lane.
     *
     * @param documents the documents that took it
     * @param records their records
     */
    public record Lane(long documents, long records) {
        Lane plus(Lane other) {
            return new Lane(documents + other.documents, records + other.records);
        }
    }

    public Shares {
        lanes = lanes == null ? Map.of() : new TreeMap<>(lanes);
        setAside = setAside == null ? Map.of() : new TreeMap<>(setAside);
    }

    public boolean none() {
        return lanes.isEmpty() && setAside.isEmpty();
    }

    public Shares plus(Shares other) {
        if (other.none()) {
            return this;
        }
        Map<String, Lane> sum = new TreeMap<>(lanes);
        other.lanes.forEach((name, lane) -> sum.merge(name, lane, Lane::plus));
        Map<String, Long> aside = new TreeMap<>(setAside);
        other.setAside.forEach((reason, records) -> aside.merge(reason, records, Long::sum));
        return new Shares(sum, aside);
    }
}
