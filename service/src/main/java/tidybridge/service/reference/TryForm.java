package tidybridge.service.reference;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.reference.InputText;
import tidybridge.core.reference.OperationText;
import tidybridge.core.sample.SampleCall;

/**
 * The form that calls an operation from its page.
 *
 * @param path where it is called, with its placeholders
 * @param changes whether it is asked before it is called
 * @param rehearsable whether whoever reads may rehearse a change in place of making it
 * @param first the inputs of the operation itself
 * @param others filters, and what the service understands of every operation of its kind
 * @param body the example of a body; null for none
 * @param mediaType of the body
 */
public record TryForm(
        String path,
        boolean changes,
        boolean rehearsable,
        List<InputText> first,
        List<InputText> others,
        @Nullable String body,
        String mediaType) {

    private static final int MOST_LINES = 16;
    private static final int MOST_NAMED = 6;

    public TryForm {
        first = List.copyOf(first);
        others = List.copyOf(others);
    }

    static TryForm of(
            Contract contract, OperationTerms terms, OperationText operation, SampleCall sample, boolean mayRehearse) {
        boolean changes = terms.change() != null && !terms.change().readOnly();
        Map<Boolean, List<InputText>> inputs = operation.inputs().stream()
                .filter(input -> List.of("path", "query", "header").contains(input.place()))
                .collect(Collectors.partitioningBy(input -> !input.own() || input.required()));
        return new TryForm(
                contract.basePath() + (terms.path().equals("/") ? "" : terms.path()),
                changes,
                changes && mayRehearse,
                inputs.getOrDefault(true, List.of()),
                inputs.getOrDefault(false, List.of()),
                sample.body(),
                sample.headers().getOrDefault("Content-Type", ""));
    }

    /** What stands in an input at first: the example of what a call cannot do without. */
    public String value(InputText input) {
        String example = input.example();
        return input.required() && example != null ? example : "";
    }

    /** The names of the others, for the line that opens them. */
    public String othersInWords() {
        String some = others.stream().limit(MOST_NAMED).map(InputText::name).collect(Collectors.joining(", "));
        int more = others.size() - MOST_NAMED;
        return more > 0 ? some + " and " + more + " more" : some;
    }

    /** How many lines the body has room for. */
    public int bodyLines() {
        return body == null ? 1 : Math.min(MOST_LINES, 1 + (int) body.lines().count());
    }
}
