package ninepin.core.deliver;

import java.util.Map;
import java.util.TreeMap;

/**
 * What the account of a run is made of: how many documents and records took a lane, how many records were set aside for a
 * reason, and what each delivery comes to.
 *
 * @param lanes for each lane its documents and records that are in the target
 * @param setAside for each reason the records set aside for it
 * @param deliveries for each delivery, by its number in the job from 0, what it comes to
 */
public record Shares(Map<String, Lane> lanes, Map<String, Long> setAside, Map<Integer, DeliveryShare> deliveries) {

    public static final Shares NONE = new Shares(Map.of(), Map.of(), Map.of());

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

    /**
     * The share of a delivery.
     *
     * @param records the records that it has made rows of
     * @param rows what became of its rows
     * @param refused the documents that the target refused for one of its rows
     */
    public record DeliveryShare(long records, RowCounts rows, long refused) {
        DeliveryShare plus(DeliveryShare other) {
            return new DeliveryShare(records + other.records, rows.plus(other.rows), refused + other.refused);
        }
    }

    public Shares {
        lanes = lanes == null ? Map.of() : new TreeMap<>(lanes);
        setAside = setAside == null ? Map.of() : new TreeMap<>(setAside);
        deliveries = deliveries == null ? Map.of() : new TreeMap<>(deliveries);
    }

    public boolean none() {
        return lanes.isEmpty() && setAside.isEmpty() && deliveries.isEmpty();
    }

    public Shares plus(Shares other) {
        if (other.none()) {
            return this;
        }
        Map<String, Lane> sum = new TreeMap<>(lanes);
        other.lanes.forEach((name, lane) -> sum.merge(name, lane, Lane::plus));
        Map<String, Long> aside = new TreeMap<>(setAside);
        other.setAside.forEach((reason, records) -> aside.merge(reason, records, Long::sum));
        return new Shares(sum, aside, deliveries(other));
    }

    private Map<Integer, DeliveryShare> deliveries(Shares other) {
        Map<Integer, DeliveryShare> sum = new TreeMap<>(deliveries);
        other.deliveries.forEach((number, delivery) -> sum.merge(number, delivery, DeliveryShare::plus));
        return sum;
    }

    /** The same with the deliveries of another place of the job. */
    public Shares withDeliveriesOf(Shares other) {
        return new Shares(lanes, setAside, deliveries(other));
    }
}
