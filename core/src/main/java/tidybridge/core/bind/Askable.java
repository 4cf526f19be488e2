package tidybridge.core.bind;

import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;

/**
 * What callers may ask of the service itself, beside an operation's own parameters. Immutable.
 *
 * @param page the page rule of a collection, null for other answers
 * @param sortable what a collection can be sorted by
 * @param fields what {@link Binder#FIELDS} may name; empty when nobody chooses
 * @param totals how the rows of a collection can be counted
 * @param formats what rows can be answered in, JSON among them; empty when there is nothing to choose
 * @param preview true when a change can be asked what it would touch
 */
public record Askable(
        @Nullable PageRule page,
        Sortable sortable,
        Set<String> fields,
        Set<Total> totals,
        List<RowFormat> formats,
        boolean preview) {

    /** Nothing. */
    public static final Askable NOTHING = new Askable(null, Sortable.NONE, Set.of(), Set.of(), List.of(), false);

    public Askable {
        fields = Collections.unmodifiableSet(new LinkedHashSet<>(fields));
        totals = Set.copyOf(totals);
        formats = List.copyOf(formats);
    }

    /** Pages and no more. */
    public static Askable pages(@Nullable PageRule page) {
        return new Askable(page, Sortable.NONE, Set.of(), Set.of(), List.of(), false);
    }

    /** What a change would touch. */
    public static Askable preview(boolean offered) {
        return new Askable(null, Sortable.NONE, Set.of(), Set.of(), List.of(), offered);
    }

    /** The query parameters that ask for it. */
    public Set<String> names() {
        return names(page, !sortable.lengths().isEmpty(), !fields.isEmpty(), !totals.isEmpty(), formats, preview);
    }

    /** The query parameters that will ask for what a definition offers. */
    public static Set<String> names(OperationDefinition operation) {
        return names(
                operation.answer().kind() == AnswerKind.ROWS ? operation.page() : null,
                !operation.collection().sorts().isEmpty(),
                operation.answer().offers().chosenFields(),
                !operation.collection().totals().isEmpty(),
                operation.answer().offers().formats(),
                operation.change().preview());
    }

    private static Set<String> names(
            @Nullable PageRule page,
            boolean sorts,
            boolean fields,
            boolean totals,
            Collection<RowFormat> formats,
            boolean preview) {
        Set<String> names = new LinkedHashSet<>();
        if (page != null) {
            names.add(Binder.LIMIT);
            names.add(Binder.AFTER);
        }
        if (page != null && page.jumps()) {
            names.addAll(List.of(Binder.BEFORE, Binder.FROM, Binder.LAST));
        }
        if (sorts) {
            names.add(Binder.SORT);
        }
        if (fields) {
            names.add(Binder.FIELDS);
        }
        if (totals) {
            names.add(Binder.TOTAL);
        }
        if (!formats.isEmpty()) {
            names.add(Binder.FORMAT);
        }
        if (formats.contains(RowFormat.CSV)) {
            names.add(Binder.HEADER);
        }
        if (preview) {
            names.add(Binder.PREVIEW);
        }
        return names;
    }
}
