package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import tidybridge.core.bind.Binder;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.LimitTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;

/** What callers may send beside an operation's own parameters, because the service understands it for every operation of that kind. */
public final class OwnParameters {

    private static final LimitTerms COUNT = LimitTerms.words(List.of(Binder.COUNT));

    /** The longest Idempotency-Key, in characters. */
    public static final int LONGEST_KEY = 255;

    private static final LimitTerms KEY = LimitTerms.lengths(1, LONGEST_KEY);

    private OwnParameters() {}

    /** Those of one operation; pages have theirs elsewhere. */
    public static List<InputTerms> of(OperationTerms operation) {
        List<InputTerms> own = new ArrayList<>();
        PageTerms page = operation.page();
        ChangeTerms change = operation.change();
        if (page != null) {
            if (page.search() != null) {
                own.add(page.search());
            }
            own.addAll(ofSorts(page.sortable()));
            addTotal(page.totals(), own);
            addJumps(page, own);
        }
        own.addAll(change == null ? ofState(operation.answer()) : ofChange(change));
        addForms(operation.answer(), own);
        return own;
    }

    private static void addTotal(List<Total> totals, List<InputTerms> own) {
        boolean exact = totals.contains(Total.EXACT);
        boolean estimate = totals.contains(Total.ESTIMATE);
        if (exact || estimate) {
            String about = (exact ? "'exact' counts the rows of all pages. " : "")
                    + (estimate ? "'estimate' tells what the database expects, at once." : "");
            own.add(word(
                    Binder.TOTAL,
                    about.strip(),
                    totals.stream().map(Total::label).toList()));
        }
    }

    private static void addJumps(PageTerms page, List<InputTerms> own) {
        if (!page.jumps()) {
            return;
        }
        String key = page.order().stream().map(PageTerms.KeyTerms::name).collect(Collectors.joining(", "));
        own.add(own(
                Binder.FROM,
                In.QUERY,
                false,
                "Begins at the first row with these values of the order (" + key
                        + "), the first of them or more, with commas between them.",
                LimitTerms.NONE));
        own.add(word(Binder.LAST, "Asks for the last page.", List.of("true")));
        own.add(own(
                Binder.BEFORE,
                In.QUERY,
                false,
                "Goes back in the collection; take it from page.before as it is.",
                LimitTerms.NONE));
    }

    private static void addForms(AnswerTerms answer, List<InputTerms> own) {
        List<String> fields = answer.choices();
        if (!fields.isEmpty()) {
            own.add(own(
                    Binder.FIELDS,
                    In.QUERY,
                    false,
                    "Only these fields, with commas between them: " + String.join(", ", fields) + ".",
                    LimitTerms.NONE));
        }
        List<RowFormat> formats = answer.formats();
        if (!formats.isEmpty()) {
            own.add(word(
                    Binder.FORMAT,
                    "What to answer in, where the Accept field does not say.",
                    formats.stream().map(RowFormat::label).toList()));
        }
        if (formats.contains(RowFormat.CSV)) {
            own.add(word(
                    Binder.HEADER,
                    "Whether a table begins with the names of its columns, which it does unless 'absent' is said.",
                    List.of("present", "absent")));
        }
    }

    /** One of some words. */
    private static InputTerms word(String name, String about, List<String> words) {
        return own(name, In.QUERY, false, about, LimitTerms.words(words));
    }

    private static List<InputTerms> ofSorts(List<String> names) {
        return names.isEmpty()
                ? List.of()
                : List.of(own(
                        Binder.SORT,
                        In.QUERY,
                        false,
                        "What to sort by, with commas between them and '-' before what descends: "
                                + String.join(", ", names) + ".",
                        LimitTerms.NONE));
    }

    private static List<InputTerms> ofState(AnswerTerms answer) {
        List<InputTerms> own = new ArrayList<>();
        if (answer.tag()) {
            own.add(field("If-None-Match", false, "The ETag of what the caller has; 304 when it is still that."));
        }
        if (answer.modified()) {
            own.add(field(
                    "If-Modified-Since",
                    false,
                    "The Last-Modified of what the caller has; 304 when it is still that."));
        }
        return own;
    }

    private static List<InputTerms> ofChange(ChangeTerms change) {
        List<InputTerms> own = new ArrayList<>();
        if (change.guarded()) {
            boolean needed = change.precondition() == Need.REQUIRED;
            own.add(field("If-Match", needed, "The ETag of what was read, or *; 412 when it was changed since."));
        }
        if (!change.readOnly()) {
            boolean needed = change.idempotencyKey() == Need.REQUIRED;
            own.add(own(
                    "Idempotency-Key",
                    In.HEADER,
                    needed,
                    "A text of your own; the same request with the same text is answered alike and done once.",
                    KEY));
        }
        if (change.preview()) {
            own.add(own(
                    Binder.PREVIEW,
                    In.QUERY,
                    false,
                    "'count' tells how many rows would be changed, and changes none.",
                    COUNT));
        }
        return own;
    }

    private static InputTerms field(String name, boolean required, String about) {
        return own(name, In.HEADER, required, about, LimitTerms.NONE);
    }

    private static InputTerms own(String name, In in, boolean required, String about, LimitTerms limits) {
        return InputTerms.own(name, in, required, about, limits);
    }
}
