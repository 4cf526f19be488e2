package tidybridge.core.access;

import java.util.Collection;
import java.util.List;
import java.util.function.Predicate;

/**
 * What an operation asks of its caller. Immutable and thread-safe.
 *
 * @param open true when anybody may call
 * @param anyOf the privileges of which one is enough; when there is none, and the operation is not open, only holders of every privilege
 *     may call
 */
public record Needs(boolean open, List<String> anyOf) {

    /** Asks for nothing. */
    public static final Needs NOTHING = new Needs(true, List.of());

    /** Asks for what nobody is given by name. */
    public static final Needs CLOSED = new Needs(false, List.of());

    public Needs {
        anyOf = List.copyOf(anyOf);
    }

    /** One of some privileges. */
    public static Needs anyOf(Collection<String> privileges) {
        return new Needs(false, List.copyOf(privileges));
    }

    /** True when holders of these privileges may call. */
    public boolean areMetBy(Predicate<String> privileges) {
        if (open) {
            return true;
        }
        for (String privilege : anyOf) {
            if (privileges.test(privilege)) {
                return true;
            }
        }
        return anyOf.isEmpty() && privileges.test(Holdings.EVERY);
    }
}
