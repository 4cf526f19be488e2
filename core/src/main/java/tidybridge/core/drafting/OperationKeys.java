package tidybridge.core.drafting;

import java.util.Locale;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;
import tidybridge.core.document.DocumentedField;
import tidybridge.core.document.DocumentedInput;
import tidybridge.core.text.Written;

/** What the text of an operation says beside its statement: what a document tells of it, and what it promises. */
final class OperationKeys {

    private static final int OK = 200;
    private static final int CREATED = 201;
    private static final int ACCEPTED = 202;
    private static final int NO_CONTENT = 204;

    private final MatchedOperation matched;

    OperationKeys(MatchedOperation matched) {
        this.matched = matched;
    }

    /** What the keys begin with. */
    Written.Collector head() {
        Written.Collector head = new Written.Collector()
                .put("about", matched.operation.about().isEmpty() ? "Say what it does" : matched.operation.about());
        String id = matched.operation.id();
        return id == null ? head : head.put("id", id);
    }

    /** The kind of the answer, as the document has it. */
    Written.Collector answered(Written.Collector keys) {
        keys.put("answer", label(matched.operation.answer().kind()));
        return keys;
    }

    private static String label(AnswerKind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }

    /** The status, where the usual one is another. */
    void status(Written.Collector keys) {
        int status = matched.operation.answer().status();
        boolean nothing = matched.operation.answer().kind() == AnswerKind.NOTHING;
        int usual = nothing ? NO_CONTENT : OK;
        boolean possible = status == OK || status == CREATED || status == ACCEPTED || status == NO_CONTENT;
        if (status != usual && possible && matched.operation.method() != Method.GET) {
            keys.put("status", Written.typed(status));
        }
    }

    /** What callers are told of fields, and what was promised. */
    void promise(Written.Collector keys) {
        Written.Collector abouts = new Written.Collector();
        Written.Collector promised = new Written.Collector();
        boolean shown = matched.operation.answer().kind() == AnswerKind.ROWS
                || matched.operation.answer().kind() == AnswerKind.ROW;
        for (DocumentedField field : matched.operation.answer().fields()) {
            String about = field.value().about();
            if (matched.fields.containsKey(field.name()) && !about.isEmpty() && shown) {
                abouts.put(
                        field.name(),
                        new Written.Collector().put("about", about).keys());
            }
            Written type = Written.text(field.value().type().label());
            promised.put(
                    field.name(),
                    field.value().nullable()
                            ? new Written.Collector()
                                    .put("type", type)
                                    .flag("nullable")
                                    .keys()
                            : type);
        }
        matched.hidden.forEach(
                name -> abouts.put(name, new Written.Collector().flag("hide").keys()));
        if (!abouts.isEmpty()) {
            keys.put("fields", abouts.keys());
        }
        Written.Collector promise = new Written.Collector()
                .put(
                        "statuses",
                        new Written.Items(matched.operation.statuses().stream()
                                .map(Written::typed)
                                .toList()));
        if (!promised.isEmpty() && shown) {
            promise.put("fields", promised.keys());
        }
        keys.put("promise", promise.keys());
    }

    /** The whole, with the parameters at its end. */
    Written.Keys ended(Written.Collector keys) {
        Written.Collector parameters = new Written.Collector();
        matched.inputs.forEach(input -> parameters.put(input.bind(), parameter(input)));
        if (!parameters.isEmpty()) {
            keys.put("parameters", parameters.keys());
        }
        if (matched.operation.deprecated()) {
            keys.flag("deprecated");
        }
        return keys.keys();
    }

    private static Written parameter(MatchedOperation.MatchedInput given) {
        DocumentedInput input = given.input();
        Written.Collector parameter =
                new Written.Collector().put("in", input.in().name().toLowerCase(Locale.ROOT));
        if (input.in() == In.BODY) {
            if (!input.pointer().equals("/" + given.bind())) {
                parameter.put("pointer", Written.text(input.pointer()));
            }
        } else if (!input.name().equals(given.bind())) {
            parameter.put("name", input.name());
        }
        parameter.putAll(input.value().keys());
        if (input.required()) {
            parameter.flag("required");
        }
        if (input.in() == In.BODY && input.value().nullable()) {
            parameter.flag("nullable");
        }
        Written usual = input.usual();
        if (usual != null) {
            parameter.put("default", usual);
        }
        Written example = input.value().example();
        if (example != null) {
            parameter.put("example", example);
        }
        if (!input.value().about().isEmpty()) {
            parameter.put("about", input.value().about());
        }
        return parameter.keys();
    }
}
