package ninepin.core.format.xml.schema;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/** The position automaton of a regular expression (Glushkov 1961) as it is put together from its parts. */
final class PositionAutomaton {

    /**
     * A part of the expression.
     *
     * @param optional whether it may be empty
     * @param first the positions that it may begin with
     * @param last those it may end with
     */
    record Part(boolean optional, BitSet first, BitSet last) {

        static Part empty() {
            return new Part(true, new BitSet(), new BitSet());
        }

        /** The same, which may be empty as well. */
        Part optionalToo(boolean may) {
            return new Part(optional || may, first, last);
        }

        Part or(Part other) {
            return new Part(optional || other.optional, union(first, other.first), union(last, other.last));
        }
    }

    private final List<BitSet> follows = new ArrayList<>();

    /** For each position those that may follow it. */
    List<BitSet> follows() {
        return follows;
    }

    /** A part that is one further position. */
    Part position() {
        BitSet here = new BitSet();
        here.set(follows.size());
        follows.add(new BitSet());
        return new Part(false, here, here);
    }

    Part then(Part a, Part b) {
        join(a, b);
        return new Part(
                a.optional() && b.optional(),
                a.optional() ? union(a.first(), b.first()) : a.first(),
                b.optional() ? union(a.last(), b.last()) : b.last());
    }

    /**
     * Lets a part follow itself.
     *
     * @return whether some position could follow another in that part before, so that there are two ways now
     */
    boolean loop(Part part) {
        return join(part, part);
    }

    private boolean join(Part a, Part b) {
        boolean twice = false;
        for (int p = a.last().nextSetBit(0); p >= 0; p = a.last().nextSetBit(p + 1)) {
            twice |= follows.get(p).intersects(b.first());
            follows.get(p).or(b.first());
        }
        return twice;
    }

    private static BitSet union(BitSet a, BitSet b) {
        BitSet all = (BitSet) a.clone();
        all.or(b);
        return all;
    }
}
