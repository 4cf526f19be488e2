package tidybridge.core.bind;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.PageRule;

/** What one request says to the service itself beside the operation's parameters: its page, or that it only asks. */
final class OwnInputs {

    private static final int MOST_DIGITS = 9;

    private final Mistakes mistakes;
    private int limit;
    private @Nullable String after;
    private @Nullable String sort;
    private boolean preview;

    OwnInputs(Mistakes mistakes) {
        this.mistakes = mistakes;
    }

    void limit(String text, PageRule rule) {
        int number = rows(text);
        if (limit != 0) {
            mistakes.add(Binder.LIMIT, "query", "is given more than once");
        } else if (number < 1 || number > rule.most()) {
            mistakes.add(Binder.LIMIT, "query", "must be a whole number from 1 to " + rule.most());
        } else {
            limit = number;
        }
    }

    /** Up to nine digits without a leading zero as a number; 0 for anything else. */
    private static int rows(String text) {
        int number = 0;
        for (int i = 0; i < text.length(); i++) {
            char digit = text.charAt(i);
            if (digit < '0' || digit > '9' || i == MOST_DIGITS || digit == '0' && i == 0) {
                return 0;
            }
            number = 10 * number + digit - '0';
        }
        return number;
    }

    void after(String text) {
        if (after != null) {
            mistakes.add(Binder.AFTER, "query", "is given more than once");
        }
        after = text;
    }

    void sort(String text, SortReader reader) {
        if (sort != null) {
            mistakes.add(Binder.SORT, "query", "is given more than once");
        } else {
            reader.check(text, mistakes);
        }
        sort = text;
    }

    void preview(String text) {
        if (preview) {
            mistakes.add(Binder.PREVIEW, "query", "is given more than once");
        } else if (!text.equals(Binder.COUNT)) {
            mistakes.add(Binder.PREVIEW, "query", "can only be '" + Binder.COUNT + "'");
        }
        preview = true;
    }

    /** The values with what was said beside them. */
    Bound with(@Nullable Object[] values, @Nullable PageRule page) {
        int rows = page == null ? 0 : limit == 0 ? page.limit() : limit;
        return new Bound(values, rows, after, sort, preview);
    }
}
