package tidybridge.core.compare;

import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.LimitTerms;

/** Compares limits of a value: a limit that is new or tighter makes less of it fit, and one that another limit made idle counts all the same. */
final class LimitComparison {

    private final List<String> narrower;
    private final List<String> wider;

    /**
     * Compares limits.
     *
     * @param narrower gets what no longer fits, in words
     * @param wider gets what fits now, in words
     */
    LimitComparison(List<String> narrower, List<String> wider) {
        this.narrower = narrower;
        this.wider = wider;
    }

    void compare(LimitTerms before, LimitTerms now) {
        compareBounds(before.minimum(), now.minimum(), 1, "at least");
        compareBounds(before.exclusiveMinimum(), now.exclusiveMinimum(), 1, "more than");
        compareBounds(before.maximum(), now.maximum(), -1, "at most");
        compareBounds(before.exclusiveMaximum(), now.exclusiveMaximum(), -1, "less than");
        compareSteps(before.multipleOf(), now.multipleOf());
        compareBounds(number(before.minLength()), number(now.minLength()), 1, "a length of at least");
        compareBounds(number(before.maxLength()), number(now.maxLength()), -1, "a length of at most");
        if (!Objects.equals(before.pattern(), now.pattern())) {
            add(now.pattern() != null, now.pattern() == null ? "any form" : "only what matches " + now.pattern());
        }
        compareMembers(before.allowed(), now.allowed());
    }

    private void add(boolean tighter, String words) {
        (tighter ? narrower : wider).add(words);
    }

    /**
     * Compares one bound.
     *
     * @param tighter the sign of a step that leaves less: 1 for a lower bound, -1 for an upper one
     */
    private void compareBounds(@Nullable BigDecimal before, @Nullable BigDecimal now, int tighter, String words) {
        if (before == null && now == null) {
            return;
        }
        if (now == null) {
            add(false, "no longer only " + words + " " + plain(before));
        } else if (before == null) {
            add(true, words + " " + plain(now));
        } else if (now.compareTo(before) != 0) {
            add(now.compareTo(before) == tighter, words + " " + plain(now) + " in place of " + plain(before));
        }
    }

    private void compareSteps(@Nullable BigDecimal before, @Nullable BigDecimal now) {
        if (now == null) {
            if (before != null) {
                add(false, "no longer only multiples of " + plain(before));
            }
        } else if (before == null) {
            add(true, "only multiples of " + plain(now));
        } else if (now.compareTo(before) != 0) {
            boolean stillFit = before.remainder(now).signum() == 0;
            add(!stillFit, "multiples of " + plain(now) + " in place of " + plain(before));
        }
    }

    private void compareMembers(List<String> before, List<String> now) {
        if (before.isEmpty() || now.isEmpty()) {
            if (!before.equals(now)) {
                add(before.isEmpty(), now.isEmpty() ? "any value" : "only " + String.join(", ", now));
            }
            return;
        }
        List<String> gone =
                before.stream().filter(member -> !now.contains(member)).toList();
        List<String> come =
                now.stream().filter(member -> !before.contains(member)).toList();
        if (!gone.isEmpty()) {
            add(true, "no longer " + String.join(", ", gone));
        }
        if (!come.isEmpty()) {
            add(false, "also " + String.join(", ", come));
        }
    }

    private static @Nullable BigDecimal number(@Nullable Integer length) {
        return length == null ? null : BigDecimal.valueOf(length);
    }

    private static String plain(@Nullable BigDecimal number) {
        return number == null ? "" : number.stripTrailingZeros().toPlainString();
    }
}
