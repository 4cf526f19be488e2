package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.Sortable;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Filter;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RowReply;
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
        return switch (plan) {
            case CollectionPlan page ->
                Stream.concat(
                                page.filters().all().stream()
                                        .filter(Filter::isSearch)
                                        .map(Filter::parameter),
                                ofSorts(page.sorts().sortable()).stream())
                        .toList();
            case OneRowPlan row -> ofState(row.reply());
            case ChangePlan change -> of(change);
        };
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
