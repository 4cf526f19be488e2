package tidybridge.core.compare;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.RefusalTerms;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.RowFormat;

/** Compares what callers get. */
final class AnswerComparison {

    private final Differences found;

    AnswerComparison(Differences found) {
        this.found = found;
    }

    void compare(OperationTerms before, OperationTerms now) {
        AnswerTerms answer = before.answer();
        AnswerTerms other = now.answer();
        if (answer.status() != other.status()) {
            found.add(
                    DifferenceKind.STATUS_CHANGED,
                    "It answers with status " + other.status() + " now and did with " + answer.status() + ".");
        }
        compareRefusals(before.refusals(), now.refusals());
        compareHeaders(before, now);
        compareFreshness(answer.fresh(), other.fresh());
        if (answer.kind() != other.kind()) {
            found.add(
                    DifferenceKind.ANSWER_CHANGED,
                    "It answers with '" + label(other.kind()) + "' now and did with '" + label(answer.kind()) + "'.");
            return;
        }
        if (answer.kind() == AnswerKind.VALUE) {
            compare("The value", answer.fields().getFirst(), other.fields().getFirst());
        } else {
            compareFields(answer, other);
        }
        compareResults(answer.results(), other.results());
        compareMediaTypes(answer, other);
        found.addIf(
                !answer.choices().isEmpty(),
                !other.choices().isEmpty(),
                DifferenceKind.OFFER_REMOVED,
                "Callers can no longer choose fields.",
                DifferenceKind.OFFER_ADDED,
                "Callers can choose fields.");
    }

    private static String label(AnswerKind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }

    private void compareFields(AnswerTerms before, AnswerTerms now) {
        List<FieldTerms> gone = without(before.fields(), now.fields());
        List<FieldTerms> come = new ArrayList<>(without(now.fields(), before.fields()));
        for (FieldTerms field : gone) {
            Optional<FieldTerms> renamed = come.stream()
                    .filter(other -> isSameButForName(field, other)
                            && before.fields().indexOf(field) == now.fields().indexOf(other))
                    .findFirst();
            if (renamed.isPresent()) {
                come.remove(renamed.get());
                found.add(
                        DifferenceKind.FIELD_RENAMED,
                        name(field) + " is called '" + renamed.get().name() + "' now.");
            } else {
                found.add(DifferenceKind.FIELD_REMOVED, name(field) + " is gone.");
            }
        }
        come.forEach(field -> found.add(DifferenceKind.FIELD_ADDED, name(field) + " is new."));
        for (FieldTerms field : before.fields()) {
            find(field, now.fields()).ifPresent(other -> compare(name(field), field, other));
        }
        compareOrder(before, now);
    }

    private static List<FieldTerms> without(List<FieldTerms> fields, List<FieldTerms> others) {
        return fields.stream().filter(field -> find(field, others).isEmpty()).toList();
    }

    private static Optional<FieldTerms> find(FieldTerms wanted, List<FieldTerms> fields) {
        return fields.stream()
                .filter(field -> field.path().equals(wanted.path()))
                .findFirst();
    }

    private static boolean isSameButForName(FieldTerms one, FieldTerms other) {
        return one.type() == other.type()
                && one.nullable() == other.nullable()
                && one.asText() == other.asText()
                && Objects.equals(one.mask(), other.mask())
                && one.members().equals(other.members());
    }

    private static String name(FieldTerms field) {
        return "The field '" + field.name() + "'";
    }

    private void compare(String name, FieldTerms before, FieldTerms now) {
        if (before.type() != now.type() || before.asText() != now.asText()) {
            found.add(DifferenceKind.FIELD_RETYPED, name + " is " + type(now) + " now and was " + type(before) + ".");
        }
        found.addIf(
                before.nullable(),
                now.nullable(),
                DifferenceKind.FIELD_NEVER_NULL,
                name + " is never null now.",
                DifferenceKind.FIELD_NULLABLE,
                name + " may be null now.");
        compareMembers(name, before.members(), now.members());
        compareMasks(name, before, now);
        Comparison.compareDeprecation(name, before.deprecated(), now.deprecated(), found);
        if (!Objects.equals(before.about(), now.about()) || !Objects.equals(before.example(), now.example())) {
            found.add(DifferenceKind.WORDS_CHANGED, "What the reference says of its fields is worded anew.");
        }
    }

    private static String type(FieldTerms field) {
        String type = field.type().name().toLowerCase(Locale.ROOT).replace('_', '-');
        return field.asText() ? "'" + type + "' written as a text" : "'" + type + "'";
    }

    private void compareMembers(String name, List<String> before, List<String> now) {
        List<String> come =
                now.stream().filter(member -> !before.contains(member)).toList();
        List<String> gone =
                before.stream().filter(member -> !now.contains(member)).toList();
        if (before.isEmpty() != now.isEmpty()) {
            found.add(
                    now.isEmpty() ? DifferenceKind.FIELD_VALUES_ADDED : DifferenceKind.FIELD_VALUES_REMOVED,
                    name + (now.isEmpty() ? " may have any value now." : " is one of " + String.join(", ", now) + "."));
            return;
        }
        if (!come.isEmpty()) {
            found.add(DifferenceKind.FIELD_VALUES_ADDED, name + " may be " + String.join(", ", come) + " too.");
        }
        if (!gone.isEmpty()) {
            found.add(DifferenceKind.FIELD_VALUES_REMOVED, name + " is never " + String.join(", ", gone) + " now.");
        }
    }

    private void compareMasks(String name, FieldTerms before, FieldTerms now) {
        if (now.mask() == null) {
            if (before.mask() != null) {
                found.add(DifferenceKind.FIELD_UNMASKED, name + " is no longer masked.");
            }
            return;
        }
        boolean sameMask = now.mask().equals(before.mask());
        boolean sameHolders = before.unless() == null || before.unless().equals(now.unless());
        if (!sameMask || !sameHolders) {
            found.add(
                    DifferenceKind.FIELD_MASKED,
                    name + " is masked"
                            + (now.unless() == null
                                    ? " for everybody."
                                    : " for callers without " + now.unless() + "."));
        } else if (!Objects.equals(before.unless(), now.unless())) {
            found.add(DifferenceKind.FIELD_UNMASKED, name + " is shown to holders of " + now.unless() + " now.");
        }
    }

    /** Readers of tables may go by the place of a column: what was there must stay there, and what is new must stand behind it. */
    private void compareOrder(AnswerTerms before, AnswerTerms now) {
        List<List<String>> paths =
                before.fields().stream().map(FieldTerms::path).toList();
        List<List<String>> others = now.fields().stream().map(FieldTerms::path).toList();
        boolean isBeginning =
                others.size() >= paths.size() && others.subList(0, paths.size()).equals(paths);
        List<List<String>> kept = new ArrayList<>(others);
        kept.retainAll(paths);
        List<List<String>> stayed = new ArrayList<>(paths);
        stayed.retainAll(others);
        if (before.offersTables() && now.offersTables() && !isBeginning) {
            found.add(
                    DifferenceKind.COLUMNS_MOVED,
                    "Columns of tables (csv, xlsx) stand at other places; new ones belong at the end.");
        } else if (!kept.equals(stayed)) {
            found.add(DifferenceKind.FIELDS_MOVED, "Fields stand in another order.");
        }
    }

    private void compareResults(List<AnswerTerms.ResultTerms> before, List<AnswerTerms.ResultTerms> now) {
        found.addMembers(
                before.stream().map(AnswerComparison::name).toList(),
                now.stream().map(AnswerComparison::name).toList(),
                DifferenceKind.FIELD_REMOVED,
                "{} is gone.",
                DifferenceKind.FIELD_ADDED,
                "{} is new.");
    }

    private static String name(AnswerTerms.ResultTerms set) {
        return "The result set '" + set.name() + "' as " + (set.single() ? "one object" : "a list");
    }

    private void compareMediaTypes(AnswerTerms before, AnswerTerms now) {
        if (before.kind() == AnswerKind.FILE) {
            if (!Objects.equals(before.mediaType(), now.mediaType())) {
                found.add(
                        before.mediaType() == null
                                ? DifferenceKind.MEDIA_TYPE_ADDED
                                : DifferenceKind.MEDIA_TYPE_REMOVED,
                        "The file is " + type(now.mediaType()) + " now and was " + type(before.mediaType()) + ".");
            }
            return;
        }
        found.addMembers(
                mediaTypes(before),
                mediaTypes(now),
                DifferenceKind.MEDIA_TYPE_REMOVED,
                "It no longer answers in {}.",
                DifferenceKind.MEDIA_TYPE_ADDED,
                "It answers in {} where callers ask for it.");
    }

    private static String type(@Nullable String mediaType) {
        return mediaType == null ? "of any media type" : mediaType;
    }

    private static List<String> mediaTypes(AnswerTerms answer) {
        return answer.formats().stream()
                .filter(format -> format != RowFormat.JSON)
                .map(RowFormat::mediaType)
                .toList();
    }

    private void compareHeaders(OperationTerms before, OperationTerms now) {
        found.addMembers(
                headers(before),
                headers(now),
                DifferenceKind.HEADER_REMOVED,
                "{} is no longer in the header of the answer.",
                DifferenceKind.HEADER_ADDED,
                "{} is in the header of the answer now.");
    }

    private static List<String> headers(OperationTerms operation) {
        List<String> headers = new ArrayList<>(operation.answer().headers());
        ChangeTerms change = operation.change();
        if (change != null && change.located()) {
            headers.add("Location");
        }
        if (operation.answer().tag() || change != null && change.tag()) {
            headers.add("ETag");
        }
        if (operation.answer().modified() || change != null && change.modified()) {
            headers.add("Last-Modified");
        }
        return headers;
    }

    private void compareFreshness(@Nullable Long before, @Nullable Long now) {
        if (!Objects.equals(before, now)) {
            found.add(
                    DifferenceKind.FRESHNESS_CHANGED,
                    now == null
                            ? "The answer may no longer be used again without asking."
                            : "The answer may be used again for " + now + " s without asking.");
        }
    }

    private void compareRefusals(List<RefusalTerms> before, List<RefusalTerms> now) {
        for (RefusalTerms refusal : before) {
            Optional<RefusalTerms> same = find(refusal, now);
            if (same.isEmpty()) {
                found.add(
                        DifferenceKind.PROBLEM_REMOVED,
                        "The problem '" + refusal.code() + "' (" + refusal.status() + ") is gone.");
            } else if (same.get().status() != refusal.status()) {
                found.add(
                        DifferenceKind.PROBLEM_MOVED,
                        "The problem '" + refusal.code() + "' has status "
                                + same.get().status() + " now and had " + refusal.status() + ".");
            } else if (!Objects.equals(refusal.message(), same.get().message())) {
                found.add(DifferenceKind.WORDS_CHANGED, "What its problems say is worded anew.");
            }
        }
        for (RefusalTerms refusal : now) {
            if (find(refusal, before).isEmpty()) {
                found.add(
                        DifferenceKind.PROBLEM_ADDED,
                        "The problem '" + refusal.code() + "' (" + refusal.status() + ") is new.");
            }
        }
    }

    private static Optional<RefusalTerms> find(RefusalTerms wanted, List<RefusalTerms> refusals) {
        return refusals.stream()
                .filter(refusal -> refusal.code().equals(wanted.code()))
                .findFirst();
    }
}
