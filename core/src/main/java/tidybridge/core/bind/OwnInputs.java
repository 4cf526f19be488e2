package tidybridge.core.bind;

import java.util.Collection;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;

/** What one request says to the service itself beside the operation's parameters: its page, its form, or that it only asks. */
final class OwnInputs {

    private static final int MOST_DIGITS = 9;

    /** More values than any order has fields. */
    private static final int MOST_KEYS = 64;

    private static final String ALL = "all";
    private static final String TRUE = "true";
    private static final String PRESENT = "present";
    private static final String ABSENT = "absent";

    private final Mistakes mistakes;
    private int limit;
    private boolean all;
    private PageStart start = PageStart.BEGINNING;
    private @Nullable String startedBy;
    private @Nullable String sort;
    private @Nullable String fields;
    private @Nullable Total total;
    private @Nullable RowFormat format;
    private @Nullable Boolean header;
    private boolean preview;

    OwnInputs(Mistakes mistakes) {
        this.mistakes = mistakes;
    }

    /**
     * Takes a query parameter that is meant for the service itself; false when it is none.
     *
     * @param compiled says which of them the operation has
     */
    boolean take(String name, String value, CompiledInputs compiled) {
        if (!compiled.own.contains(name)) {
            return false;
        }
        PageRule page = compiled.ask.page();
        switch (name) {
            case Binder.LIMIT -> {
                if (page != null) {
                    limit(value, page);
                }
            }
            case Binder.AFTER -> start(name, new PageStart.After(value));
            case Binder.BEFORE -> start(name, new PageStart.Before(value));
            case Binder.FROM -> start(name, new PageStart.From(CommaText.split(value, MOST_KEYS)));
            case Binder.LAST -> {
                if (!value.equals(TRUE)) {
                    mistakes.add(name, "query", "can only be '" + TRUE + "'");
                }
                start(name, new PageStart.Last());
            }
            case Binder.SORT -> {
                if (!twice(name, sort)) {
                    compiled.sort.check(value, mistakes);
                }
                sort = value;
            }
            case Binder.FIELDS -> {
                if (!twice(name, fields)) {
                    compiled.fields.check(value, mistakes);
                }
                fields = value;
            }
            case Binder.TOTAL -> {
                if (!twice(name, total)) {
                    total = oneOf(name, value, compiled.ask.totals(), Total::label);
                }
            }
            case Binder.FORMAT -> {
                if (!twice(name, format)) {
                    format = oneOf(name, value, compiled.ask.formats(), RowFormat::label);
                }
            }
            case Binder.HEADER -> header(value);
            case Binder.PREVIEW -> preview(value);
            default -> throw new IllegalStateException("nobody reads " + name);
        }
        return true;
    }

    private void start(String name, PageStart asked) {
        if (name.equals(startedBy)) {
            twice(name, startedBy);
        } else if (startedBy != null) {
            mistakes.add(name, "query", "cannot be given together with '" + startedBy + "'");
        }
        start = asked;
        startedBy = name;
    }

    private boolean twice(String name, @Nullable Object before) {
        if (before != null) {
            mistakes.add(name, "query", "is given more than once");
        }
        return before != null;
    }

    private void limit(String text, PageRule rule) {
        boolean isAll = rule.offersAll() && text.equals(ALL);
        int number = isAll ? rule.mostOfAll() : rows(text);
        if (limit != 0) {
            mistakes.add(Binder.LIMIT, "query", "is given more than once");
        } else if (number < 1 || number > rule.most() && !isAll) {
            String more = rule.offersAll() ? ", or '" + ALL + "'" : "";
            mistakes.add(Binder.LIMIT, "query", "must be a whole number from 1 to " + rule.most() + more);
        } else {
            limit = number;
            all = isAll;
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

    /** One of several words; null, with a mistake, for another one. */
    private <T extends Comparable<T>> @Nullable T oneOf(
            String name, String text, Collection<T> known, Function<T, String> label) {
        for (T one : known) {
            if (label.apply(one).equals(text)) {
                return one;
            }
        }
        mistakes.add(name, "query", "can only be " + Mistakes.either(known, label));
        return null;
    }

    private void header(String text) {
        if (!twice(Binder.HEADER, header) && !text.equals(PRESENT) && !text.equals(ABSENT)) {
            mistakes.add(Binder.HEADER, "query", "can only be '" + PRESENT + "' or '" + ABSENT + "'");
        }
        header = text.equals(PRESENT);
    }

    private void preview(String text) {
        if (preview) {
            mistakes.add(Binder.PREVIEW, "query", "is given more than once");
        } else if (!text.equals(Binder.COUNT)) {
            mistakes.add(Binder.PREVIEW, "query", "can only be '" + Binder.COUNT + "'");
        }
        preview = true;
    }

    /** Tells what cannot be said together. */
    void settle() {
        if (all && (start instanceof PageStart.Before || start instanceof PageStart.Last)) {
            mistakes.add(Binder.LIMIT, "query", "cannot be '" + ALL + "' together with '" + startedBy + "'");
        }
    }

    /** The values with what was said beside them. */
    Bound with(@Nullable Object[] values, @Nullable PageRule page) {
        int rows = page == null ? 0 : limit == 0 ? page.limit() : limit;
        return new Bound(values, new Asked(rows, all, start, sort, fields, total, format, header, preview));
    }
}
