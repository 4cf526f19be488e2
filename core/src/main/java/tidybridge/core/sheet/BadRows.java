package tidybridge.core.sheet;

import java.util.ArrayList;
import java.util.List;

/** Collects rows that cannot be taken: the first ones, and the number of the others. Used by one thread. */
public final class BadRows {

    private final List<SheetLook.BadRow> first = new ArrayList<>();
    private long more;

    public void add(long line, String reason) {
        if (first.size() < SheetLook.MOST_BAD) {
            first.add(new SheetLook.BadRow(line, reason));
        } else {
            more++;
        }
    }

    public boolean isEmpty() {
        return first.isEmpty();
    }

    public List<SheetLook.BadRow> first() {
        return List.copyOf(first);
    }

    public long more() {
        return more;
    }
}
