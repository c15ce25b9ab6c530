package ninepin.core.infer;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Names of places in a tree: the name of the element or attribute there, and where several places have it, that of an
 * element around it in front, of the nearest that tells them apart.
 */
public final class DistinctNames {

    private DistinctNames() {}

    /**
     * Names places.
     *
     * @param paths the way to each place, such as {@code p:order/p:line/@no}; none twice
     * @return a name for each, none twice
     */
    public static List<String> of(List<String> paths) {
        List<List<String>> words = paths.stream().map(DistinctNames::words).toList();
        int[] around = new int[paths.size()];
        List<String> names = names(words, around);
        for (List<Integer> same = same(names); !same.isEmpty(); same = same(names)) {
            boolean further = false;
            for (int i : same) {
                if (around[i] + 1 < words.get(i).size()) {
                    around[i]++;
                    further = true;
                }
            }
            if (!further) {
                return numbered(names);
            }
            names = names(words, around);
        }
        return names;
    }

    /** The names on a way without their prefixes, the innermost first. */
    private static List<String> words(String path) {
        List<String> words = new ArrayList<>(Arrays.stream(path.split("/"))
                .filter(w -> !w.isEmpty())
                .map(w -> w.substring(w.lastIndexOf(':') + 1).replace("@", "").replace('.', '-'))
                .toList());
        Collections.reverse(words);
        return words;
    }

    private static List<String> names(List<List<String>> words, int[] around) {
        List<String> names = new ArrayList<>();
        for (int i = 0; i < around.length; i++) {
            List<String> of = words.get(i);
            names.add(around[i] == 0 ? of.get(0) : of.get(around[i]) + "_" + of.get(0));
        }
        return names;
    }

    /** The places whose name another has as well. */
    private static List<Integer> same(List<String> names) {
        Map<String, List<Integer>> places = new HashMap<>();
        for (int i = 0; i < names.size(); i++) {
            places.computeIfAbsent(names.get(i), n -> new ArrayList<>()).add(i);
        }
        return places.values().stream()
                .filter(p -> p.size() > 1)
                .flatMap(List::stream)
                .toList();
    }

    private static List<String> numbered(List<String> names) {
        Set<String> unique = new LinkedHashSet<>();
        Map<String, Integer> next = new HashMap<>();
        for (String name : names) {
            String candidate = name;
            while (!unique.add(candidate)) {
                candidate = name + next.merge(name, 2, (before, two) -> before + 1);
            }
        }
        return List.copyOf(unique);
    }
}
