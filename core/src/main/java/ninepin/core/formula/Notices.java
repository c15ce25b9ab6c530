package ninepin.core.formula;

import java.util.ArrayList;
import java.util.List;

/** What formulas and rules have to say of a record that they do have a value for. */
public final class Notices {

    /**
     * Something to be noted.
     *
     * @param code the stable code of the finding
     * @param found what was found
     * @param expected what was expected
     */
    public record Notice(String code, String found, String expected) {}

    private final List<Notice> all = new ArrayList<>(0);

    public void add(String code, String found, String expected) {
        all.add(new Notice(code, found, expected));
    }

    public boolean isEmpty() {
        return all.isEmpty();
    }

    /** All that was said since the last time. */
    public List<Notice> take() {
        List<Notice> taken = List.copyOf(all);
        all.clear();
        return taken;
    }
}
