package ninepin.core.infer;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;

/**
 * What the order of tags tells about record types: which is a header, which a trailer, which belongs to which.
 *
 * @param order the tags, parents before children
 * @param names the proposed name of each
 * @param parents the tag of the parent of each that has one
 */
public record RecordTypeGuess(List<String> order, Map<String, String> names, Map<String, String> parents) {

    /**
     * @param sequence the tags of all records, in order
     * @param samples the number of files they are of: each may have a header and a trailer
     */
    public static RecordTypeGuess of(List<String> sequence, int samples, List<Guess> guesses) {
        Set<String> tags = new LinkedHashSet<>(sequence);
        Map<String, Integer> counts = new HashMap<>();
        sequence.forEach(t -> counts.merge(t, 1, Integer::sum));
        String first = sequence.get(0);
        String last = sequence.get(sequence.size() - 1);
        Map<String, String> names = new HashMap<>();
        tags.forEach(t -> names.put(t, "type " + t.strip()));
        boolean header = tags.size() > 1 && counts.get(first) == samples;
        boolean trailer = tags.size() > 1 && counts.get(last) == samples && !last.equals(first);
        if (header) {
            names.put(first, "header");
        }
        if (trailer) {
            names.put(last, "trailer");
        }
        List<String> body = tags.stream()
                .filter(t -> !(header && t.equals(first)) && !(trailer && t.equals(last)))
                .toList();
        Map<String, String> parents = parents(sequence, body);
        guesses.add(new Guess(
                "record types",
                String.join(", ", tags.stream().map(names::get).toList()),
                parents.isEmpty() && tags.size() > 1 ? Sureness.LIKELY : Sureness.SURE,
                tags.size() + " tags; "
                        + (parents.isEmpty()
                                ? "none belongs to another."
                                : String.join(
                                                ", ",
                                                parents.entrySet().stream()
                                                        .map(e -> names.get(e.getKey()) + " belongs to "
                                                                + names.get(e.getValue()))
                                                        .sorted()
                                                        .toList())
                                        + ".")));
        List<String> order = new ArrayList<>(tags);
        // A parent stands before its children in the file, so the order of first appearance is that of the layout.
        return new RecordTypeGuess(order, names, parents);
    }

    public String name(String tag) {
        return names.get(tag);
    }

    /** The name of the parent's type, or null. */
    public String parent(String tag) {
        String parent = parents.get(tag);
        return parent == null ? null : names.get(parent);
    }

    /** A type belongs to the one that stands before each run of it; to the nearest where there are several. */
    private static Map<String, String> parents(List<String> sequence, List<String> body) {
        Map<String, String> parents = new HashMap<>();
        for (int i = 1; i < body.size(); i++) {
            String child = body.get(i);
            for (int p = i - 1; p >= 0 && !parents.containsKey(child); p--) {
                String candidate = body.get(p);
                if (!parents.containsValue(child) && alwaysUnder(sequence, body, candidate, child)) {
                    parents.put(child, candidate);
                }
            }
        }
        return parents;
    }

    private static boolean alwaysUnder(List<String> sequence, List<String> body, String parent, String child) {
        boolean open = false;
        int parents = 0;
        int with = 0;
        boolean fresh = false;
        for (String tag : sequence) {
            if (tag.equals(parent)) {
                open = true;
                fresh = true;
                parents++;
            } else if (tag.equals(child)) {
                if (!open) {
                    return false;
                }
                with += fresh ? 1 : 0;
                fresh = false;
            } else if (!body.contains(tag)) {
                open = false;
            }
        }
        return parents > 0 && with * 2 > parents;
    }
}
