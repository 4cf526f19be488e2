package tidybridge.core.access;

import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** The privileges somebody holds: single ones, groups of them, or every one. Immutable and thread-safe. */
public final class Holdings implements Predicate<String> {

    /** How {@link #ALL} is written. */
    public static final String EVERY = "*";

    /** Nothing. */
    public static final Holdings NONE = new Holdings(Set.of(), List.of(), false);

    /** What the administrator holds: every privilege there is and will be. */
    public static final Holdings ALL = new Holdings(Set.of(), List.of(), true);

    private final Set<String> exact;
    private final List<String> beginnings;
    private final boolean every;
    private final List<String> written;

    private Holdings(Set<String> exact, List<String> beginnings, boolean every) {
        this.exact = Set.copyOf(exact);
        this.beginnings = List.copyOf(beginnings);
        this.every = every;
        this.written = every
                ? List.of(EVERY)
                : Stream.concat(exact.stream(), beginnings.stream().map(beginning -> beginning + EVERY))
                        .sorted()
                        .toList();
    }

    /** What these names, groups and {@link #EVERY} come to; anything else counts as nothing. */
    public static Holdings of(Collection<String> privileges) {
        if (privileges.contains(EVERY)) {
            return ALL;
        }
        Set<String> exact = new TreeSet<>();
        Set<String> beginnings = new TreeSet<>();
        for (String privilege : privileges) {
            if (Privilege.isGroup(privilege)) {
                beginnings.add(privilege.substring(0, privilege.length() - 1));
            } else if (Privilege.isName(privilege)) {
                exact.add(privilege);
            }
        }
        return exact.isEmpty() && beginnings.isEmpty() ? NONE : new Holdings(exact, List.copyOf(beginnings), false);
    }

    @Override
    public boolean test(String privilege) {
        if (every || exact.contains(privilege)) {
            return true;
        }
        for (String beginning : beginnings) {
            if (privilege.startsWith(beginning)) {
                return true;
            }
        }
        return false;
    }

    /** As roles write it, in the order of the alphabet. */
    public List<String> written() {
        return written;
    }

    @Override
    public String toString() {
        return String.join(", ", written);
    }
}
