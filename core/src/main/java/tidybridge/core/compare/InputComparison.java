package tidybridge.core.compare;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.contract.BodyTerms;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.ListTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.route.PathTemplate;

/** Compares what callers send. */
final class InputComparison {

    private final Differences found;

    InputComparison(Differences found) {
        this.found = found;
    }

    void compare(OperationTerms before, OperationTerms now) {
        List<InputTerms> renamed = now.inputs().stream()
                .map(input -> input.in() == In.PATH ? called(input, before, now) : input)
                .toList();
        for (InputTerms old : before.inputs()) {
            Optional<InputTerms> same = find(old, renamed);
            if (same.isPresent()) {
                compare(name(old), old, same.get());
            } else {
                found.add(DifferenceKind.PARAMETER_REMOVED, name(old) + " is gone, and refused when it is sent.");
            }
        }
        for (InputTerms input : renamed) {
            if (find(input, before.inputs()).isEmpty()) {
                boolean required = input.required() && input.usual() == null;
                found.add(
                        required ? DifferenceKind.PARAMETER_ADDED_REQUIRED : DifferenceKind.PARAMETER_ADDED,
                        name(input) + " is new" + (required ? ", and required." : "."));
            }
        }
        compareBodies(before.body(), now.body());
        found.addIf(
                onlyReads(before),
                onlyReads(now),
                DifferenceKind.CHANGES_DATA,
                "It only read before, and changes data now.",
                DifferenceKind.CHANGES_NOTHING,
                "It only reads now.");
        compareChanges(before.change(), now.change());
    }

    private static boolean onlyReads(OperationTerms operation) {
        ChangeTerms change = operation.change();
        return change == null || change.readOnly();
    }

    /** A placeholder under the name that the earlier path has at its place. */
    private static InputTerms called(InputTerms input, OperationTerms before, OperationTerms now) {
        List<String> names = PathTemplate.parse(now.path()).placeholders();
        int at = names.indexOf(input.name());
        String name = at < 0
                ? input.name()
                : PathTemplate.parse(before.path()).placeholders().get(at);
        return new InputTerms(
                name,
                input.in(),
                input.type(),
                input.required(),
                input.nullable(),
                input.about(),
                input.usual(),
                input.example(),
                input.limits(),
                input.list(),
                input.deprecated());
    }

    private static Optional<InputTerms> find(InputTerms wanted, List<InputTerms> inputs) {
        return inputs.stream()
                .filter(input -> input.in() == wanted.in() && isNamed(input, wanted))
                .findFirst();
    }

    /** Names of header fields have no case (RFC 9110, 5.1). */
    private static boolean isNamed(InputTerms input, InputTerms wanted) {
        return wanted.in() == In.HEADER
                ? input.name().equalsIgnoreCase(wanted.name())
                : input.name().equals(wanted.name());
    }

    private static String name(InputTerms input) {
        return switch (input.in()) {
            case BODY -> input.name().isEmpty() ? "The body" : "'" + input.name() + "' of the body";
            case FORM -> "The form field '" + input.name() + "'";
            case PATH, QUERY, HEADER, COOKIE, CALLER, REQUEST ->
                "The " + input.in().name().toLowerCase(Locale.ROOT) + " parameter '" + input.name() + "'";
        };
    }

    /**
     * Compares one input.
     *
     * @param name begins each sentence
     */
    void compare(String name, InputTerms before, InputTerms now) {
        compareNeed(name, before, now);
        boolean retyped = isRetyped(before, now);
        if (retyped) {
            found.add(
                    DifferenceKind.PARAMETER_RETYPED, name + " is " + type(now) + " now and was " + type(before) + ".");
        }
        List<String> narrower = new ArrayList<>();
        List<String> wider = new ArrayList<>();
        if (!retyped && !type(before).equals(type(now))) {
            wider.add(type(now) + " in place of " + type(before));
        }
        if (before.nullable() != now.nullable()) {
            (now.nullable() ? wider : narrower).add(now.nullable() ? "it may be null" : "it may no longer be null");
        }
        new LimitComparison(narrower, wider).compare(before.limits(), now.limits());
        compareLists(before.list(), now.list(), narrower, wider);
        if (!narrower.isEmpty()) {
            found.add(DifferenceKind.PARAMETER_NARROWED, name + " takes less: " + String.join(", ", narrower) + ".");
        }
        if (!wider.isEmpty()) {
            found.add(DifferenceKind.PARAMETER_WIDENED, name + " takes more: " + String.join(", ", wider) + ".");
        }
        Comparison.compareDeprecation(name, before.deprecated(), now.deprecated(), found);
        if (!Objects.equals(before.about(), now.about()) || !Objects.equals(before.example(), now.example())) {
            found.add(DifferenceKind.WORDS_CHANGED, "What the reference says of its parameters is worded anew.");
        }
    }

    private void compareNeed(String name, InputTerms before, InputTerms now) {
        boolean wasRequired = before.required() && before.usual() == null;
        boolean isRequired = now.required() && now.usual() == null;
        if (isRequired && !wasRequired) {
            found.add(DifferenceKind.PARAMETER_REQUIRED, name + " is required now.");
        } else if (wasRequired && !isRequired) {
            found.add(DifferenceKind.PARAMETER_OPTIONAL, name + " may be left out now.");
        } else if (!Objects.equals(before.usual(), now.usual())) {
            found.add(
                    DifferenceKind.DEFAULT_CHANGED,
                    name + " that is left out means " + usual(now) + " now and meant " + usual(before) + ".");
        }
    }

    private static String usual(InputTerms input) {
        return input.usual() == null ? "nothing" : "'" + input.usual() + "'";
    }

    /** A whole number is a number; nothing else is certain to be read as before. */
    private static boolean isRetyped(InputTerms before, InputTerms now) {
        ListTerms list = before.list();
        ListTerms other = now.list();
        if (list != null && other != null) {
            return list.commas() != other.commas() || isRetyped(list.type(), other.type());
        }
        return isRetyped(before.type(), now.type());
    }

    private static boolean isRetyped(ParameterType before, ParameterType now) {
        return before != now && !(before == ParameterType.INTEGER && now == ParameterType.NUMBER);
    }

    private static String type(InputTerms input) {
        ListTerms list = input.list();
        return list == null
                ? "'" + input.type().label() + "'"
                : "a list of '" + list.type().label() + "'" + (list.commas() ? " with commas between them" : "");
    }

    private static void compareLists(
            @Nullable ListTerms before, @Nullable ListTerms now, List<String> narrower, List<String> wider) {
        if (before == null || now == null) {
            return;
        }
        new LimitComparison(narrower, wider).compare(before.limits(), now.limits());
        compareCounts("at least", now.minItems() - before.minItems(), now.minItems(), narrower, wider);
        compareCounts("at most", before.maxItems() - now.maxItems(), now.maxItems(), narrower, wider);
        if (before.unique() != now.unique()) {
            (now.unique() ? narrower : wider).add(now.unique() ? "no two items may be equal" : "items may be equal");
        }
    }

    private static void compareCounts(String bound, int tighter, int count, List<String> narrower, List<String> wider) {
        if (tighter != 0) {
            (tighter > 0 ? narrower : wider).add(bound + " " + count + " items");
        }
    }

    private void compareBodies(BodyTerms before, BodyTerms now) {
        if (before.kind() != now.kind() && before.kind() != BodyKind.NONE && now.kind() != BodyKind.NONE) {
            found.add(
                    DifferenceKind.BODY_CHANGED,
                    "The body is sent as " + now.kind().mediaType() + " now and was sent as "
                            + before.kind().mediaType() + ".");
        }
        BodyTerms.BatchTerms batch = before.batch();
        BodyTerms.BatchTerms other = now.batch();
        if (batch == null || other == null) {
            if (batch != other) {
                found.add(
                        DifferenceKind.BODY_CHANGED,
                        other == null
                                ? "The body is one row now and was a list of them."
                                : "The body is a list of rows now and was one row.");
            }
            return;
        }
        if (batch.outcome() != other.outcome()) {
            found.add(
                    DifferenceKind.BODY_CHANGED, "What becomes of the other rows when one is refused is another now.");
        }
        if (batch.most() != other.most()) {
            found.add(
                    other.most() < batch.most() ? DifferenceKind.CEILING_LOWERED : DifferenceKind.CEILING_RAISED,
                    "One request may have " + other.most() + " rows now, in place of " + batch.most() + ".");
        }
    }

    private void compareChanges(@Nullable ChangeTerms before, @Nullable ChangeTerms now) {
        if (before == null || now == null) {
            return;
        }
        found.addIf(
                before.guarded(),
                now.guarded(),
                DifferenceKind.PRECONDITION_IGNORED,
                "If-Match is no longer heeded: a change over another change is no longer refused.",
                DifferenceKind.PRECONDITION_OFFERED,
                "If-Match is heeded now.");
        compareNeeds("If-Match", before.precondition(), now.precondition());
        compareNeeds("Idempotency-Key", before.idempotencyKey(), now.idempotencyKey());
        found.addIf(
                before.preview(),
                now.preview(),
                DifferenceKind.OFFER_REMOVED,
                "preview=count is gone.",
                DifferenceKind.OFFER_ADDED,
                "preview=count tells how many rows would be changed.");
    }

    private void compareNeeds(String field, Need before, Need now) {
        found.addIf(
                before == Need.REQUIRED,
                now == Need.REQUIRED,
                DifferenceKind.PRECONDITION_OPTIONAL,
                field + " may be left out now.",
                DifferenceKind.PRECONDITION_REQUIRED,
                field + " must be sent now.");
    }
}
