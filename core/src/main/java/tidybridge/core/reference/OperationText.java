package tidybridge.core.reference;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One operation as its page tells it. Only data; immutable and thread-safe.
 *
 * @param id what the reference calls it; never that of another operation of the module
 * @param path below the module
 * @param ended the sentence about its end; null while callers may begin to use it
 * @param facts what else callers should know, each under a word
 * @param mediaTypes what a body is sent as; empty for none
 * @param formats what an answer comes in
 */
public record OperationText(
        String id,
        String method,
        String path,
        String tag,
        @Nullable String about,
        @Nullable String ended,
        List<Fact> facts,
        List<InputText> inputs,
        List<String> mediaTypes,
        String answer,
        List<String> formats,
        List<FieldText> fields,
        List<StatusText> statuses) {
    public OperationText {
        facts = List.copyOf(facts);
        inputs = List.copyOf(inputs);
        mediaTypes = List.copyOf(mediaTypes);
        formats = List.copyOf(formats);
        fields = List.copyOf(fields);
        statuses = List.copyOf(statuses);
    }

    /** Something worth knowing, under the word that people look for. */
    public record Fact(String term, String words) {}

    /** {@code GET /berths/{berthId}} */
    public String label() {
        return method + " " + path;
    }

    /** Inputs of the operation itself, in the order of its text. */
    public List<InputText> ownInputs() {
        return inputs.stream().filter(input -> !input.own()).toList();
    }

    /** Conditions that callers may put on the rows. */
    public List<InputText> filters() {
        return inputs.stream().filter(input -> input.filter() != null).toList();
    }

    /** What the service understands of every operation of its kind. */
    public List<InputText> commonInputs() {
        return inputs.stream()
                .filter(input -> input.own() && input.filter() == null)
                .toList();
    }
}
