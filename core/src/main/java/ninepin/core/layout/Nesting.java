package ninepin.core.layout;

import java.util.List;
import java.util.function.Function;

/** What holds of record types that stand inside each other. */
final class Nesting {

    private Nesting() {}

    /**
     * A record inside another belongs to it. If it did not, a commit could fall between the start of the outer record and
     * the inner one, and a restart behind it would not find the inner one again.
     *
     * @param steps the way from the start of the document to the records of a type; null where nothing tells it
     */
    static <S> void require(List<RecordType> types, Function<RecordType, List<S>> steps) {
        for (RecordType inner : types) {
            for (RecordType outer : types) {
                if (isInside(steps.apply(inner), steps.apply(outer)) && !belongs(inner, outer, types)) {
                    throw new DefinitionException(
                            "recordTypes." + inner.name() + ".parent",
                            "stands inside " + outer.name() + ", so it has to belong to " + outer.name());
                }
            }
        }
    }

    private static <S> boolean isInside(List<S> within, List<S> around) {
        return within != null
                && around != null
                && around.size() < within.size()
                && within.subList(0, around.size()).equals(around);
    }

    private static boolean belongs(RecordType inner, RecordType outer, List<RecordType> types) {
        for (String parent = inner.parent(); parent != null; ) {
            if (parent.equals(outer.name())) {
                return true;
            }
            String next = parent;
            parent = types.stream()
                    .filter(t -> t.name().equals(next))
                    .findFirst()
                    .map(RecordType::parent)
                    .orElse(null);
        }
        return false;
    }
}
