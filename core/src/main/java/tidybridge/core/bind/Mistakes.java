package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.problem.InputError;

/** The mistakes of one request, in the order in which they are found; no more than an answer should tell. */
final class Mistakes {

    /** The most mistakes one answer tells. */
    private static final int MOST = 50;

    /** A name is the caller's own text: it is cut, so that an answer cannot be made arbitrarily long. */
    private static final int LONGEST_SHOWN = 60;

    private @Nullable List<InputError> errors;

    /** The JSON Pointer of the row of a batch that is read; empty outside of batches. */
    private String row = "";

    boolean isEmpty() {
        return errors == null;
    }

    boolean isFlooded() {
        return errors != null && errors.size() >= MOST;
    }

    int size() {
        return errors == null ? 0 : errors.size();
    }

    /** Drops what was found after the first few, but for the last, which says more than all of it. */
    void keepLast(int first) {
        if (errors != null && errors.size() > first + 1) {
            errors.subList(first, errors.size() - 1).clear();
        }
    }

    /** Says which row of a batch the next mistakes are in; empty for none. */
    void within(String pointer) {
        row = pointer;
    }

    /** Drops what was found: something says more than all of it. */
    void forget() {
        errors = null;
    }

    void of(ParameterDefinition parameter, String clause) {
        String name = parameter.in() == In.BODY ? row + parameter.wireName() : parameter.wireName();
        add(name, parameter.in().name().toLowerCase(Locale.ROOT), clause);
    }

    void ofBody(String pointer, String clause) {
        add(row + pointer, "body", clause);
    }

    void add(String name, String in, String clause) {
        if (errors == null) {
            errors = new ArrayList<>();
        }
        if (errors.size() < MOST) {
            String end = clause.endsWith(".") || clause.endsWith("?") ? "" : ".";
            String subject = in.equals("body") && name.isEmpty() ? "The body" : "'" + name + "'";
            errors.add(new InputError(name, in, subject + " " + clause + end));
        }
    }

    static String shown(String name) {
        return name.length() <= LONGEST_SHOWN ? name : name.substring(0, LONGEST_SHOWN) + "...";
    }

    /** Refuses the request when there are any. */
    void refuse() throws BadInput {
        if (errors != null) {
            throw new BadInput(errors);
        }
    }

    /** {@code 'csv' or 'json'}, in the order of what they are. */
    static <T extends Comparable<T>> String either(Collection<T> words, Function<T, String> label) {
        return words.stream().sorted().map(label).collect(Collectors.joining("' or '", "'", "'"));
    }
}
