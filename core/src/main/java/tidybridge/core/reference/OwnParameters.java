package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.Sortable;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Filter;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.RowForms;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.Totals;
import tidybridge.core.text.Place;

/** What callers may send beside an operation's own parameters, because the service understands it for every operation of that kind. */
public final class OwnParameters {

    private static final Constraints COUNT =
            new Constraints(null, null, null, null, null, null, null, null, List.of(Binder.COUNT));

    /** The longest Idempotency-Key, in characters. */
    public static final int LONGEST_KEY = 255;

    private static final Constraints KEY =
            new Constraints(null, null, null, null, null, 1, LONGEST_KEY, null, List.of());

    private OwnParameters() {}

    /** Those of one operation; pages have theirs elsewhere. */
    public static List<ParameterDefinition> of(OperationPlan plan) {
        List<ParameterDefinition> own = new ArrayList<>();
        switch (plan) {
            case CollectionPlan page -> {
                page.filters().all().stream()
                        .filter(Filter::isSearch)
                        .map(Filter::parameter)
                        .forEach(own::add);
                own.addAll(ofSorts(page.sorts().sortable()));
                addTotal(page.totals(), own);
                addJumps(page, own);
                own.addAll(ofState(page.reply()));
            }
            case OneRowPlan row -> own.addAll(ofState(row.reply()));
            case ChangePlan change -> own.addAll(of(change));
        }
        addForms(plan.forms(), own);
        return own;
    }

    private static void addTotal(Totals totals, List<ParameterDefinition> own) {
        boolean exact = totals.offered().contains(Total.EXACT);
        boolean estimate = totals.offered().contains(Total.ESTIMATE);
        if (exact || estimate) {
            String about = (exact ? "'exact' counts the rows of all pages. " : "")
                    + (estimate ? "'estimate' tells what the database expects, at once." : "");
            own.add(word(
                    Binder.TOTAL,
                    about.strip(),
                    totals.offered().stream().sorted().map(Total::label).toList()));
        }
    }

    private static void addJumps(CollectionPlan page, List<ParameterDefinition> own) {
        if (!page.page().jumps()) {
            return;
        }
        String key = page.order().keys().stream().map(PageOrder.Key::name).collect(Collectors.joining(", "));
        own.add(own(
                Binder.FROM,
                In.QUERY,
                false,
                "Begins at the first row with these values of the order (" + key
                        + "), the first of them or more, with commas between them.",
                Constraints.NONE));
        own.add(word(Binder.LAST, "Asks for the last page.", List.of("true")));
        own.add(own(
                Binder.BEFORE,
                In.QUERY,
                false,
                "Goes back in the collection; take it from page.before as it is.",
                Constraints.NONE));
    }

    private static void addForms(RowForms forms, List<ParameterDefinition> own) {
        Set<String> fields = forms.choices().names();
        if (!fields.isEmpty()) {
            own.add(own(
                    Binder.FIELDS,
                    In.QUERY,
                    false,
                    "Only these fields, with commas between them: " + String.join(", ", fields) + ".",
                    Constraints.NONE));
        }
        List<RowFormat> formats = forms.formats();
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
    private static ParameterDefinition word(String name, String about, List<String> words) {
        return own(
                name, In.QUERY, false, about, new Constraints(null, null, null, null, null, null, null, null, words));
    }

    private static List<ParameterDefinition> ofSorts(Sortable sortable) {
        List<String> names = List.copyOf(sortable.lengths().keySet());
        return names.isEmpty()
                ? List.of()
                : List.of(own(
                        Binder.SORT,
                        In.QUERY,
                        false,
                        "What to sort by, with commas between them and '-' before what descends: "
                                + String.join(", ", names) + ".",
                        Constraints.NONE));
    }

    private static List<ParameterDefinition> ofState(RowReply reply) {
        List<ParameterDefinition> own = new ArrayList<>();
        if (reply.tag() != null) {
            own.add(field("If-None-Match", false, "The ETag of what the caller has; 304 when it is still that."));
        }
        if (reply.modified() >= 0) {
            own.add(field(
                    "If-Modified-Since",
                    false,
                    "The Last-Modified of what the caller has; 304 when it is still that."));
        }
        return own;
    }

    private static List<ParameterDefinition> of(ChangePlan change) {
        List<ParameterDefinition> own = new ArrayList<>();
        if (change.guard() != null) {
            boolean needed = change.precondition() == Need.REQUIRED;
            own.add(field("If-Match", needed, "The ETag of what was read, or *; 412 when it was changed since."));
        }
        if (!change.sequence().readOnly()) {
            boolean needed = change.idempotencyKey() == Need.REQUIRED;
            own.add(own(
                    "Idempotency-Key",
                    In.HEADER,
                    needed,
                    "A text of your own; the same request with the same text is answered alike and done once.",
                    KEY));
        }
        if (change.preview() != null) {
            own.add(own(
                    Binder.PREVIEW,
                    In.QUERY,
                    false,
                    "'count' tells how many rows would be changed, and changes none.",
                    COUNT));
        }
        return own;
    }

    private static ParameterDefinition field(String name, boolean required, String about) {
        return own(name, In.HEADER, required, about, Constraints.NONE);
    }

    private static ParameterDefinition own(
            String name, In in, boolean required, String about, Constraints constraints) {
        return new ParameterDefinition(
                name,
                name,
                Place.of(""),
                in,
                ParameterType.STRING,
                true,
                required,
                false,
                about,
                null,
                null,
                constraints,
                null,
                null);
    }
}
