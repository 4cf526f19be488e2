package tidybridge.core.bind;

import tidybridge.core.pattern.TextPattern;

/** What one request may still cost for comparing its texts with patterns. Used by one thread. */
final class Effort {

    private long left = TextPattern.MOST_EFFORT;

    /** Takes some; false when not enough is left. */
    boolean spend(long effort) {
        left -= effort;
        return left >= 0;
    }
}
