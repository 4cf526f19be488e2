package tidybridge.core.problem;

import java.io.ByteArrayOutputStream;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/**
 * An error as people and programs outside see it: a problem document of RFC 9457.
 *
 * @param status the HTTP status, the kind's own unless a definition says otherwise
 * @param code what programs know it by: the kind's label, or the code of a module's own rule
 * @param scope the module whose rule it is, {@code moorings/v1}; null for a problem of a general kind
 * @param detail one sentence for the caller that says what happened and what to do
 * @param errors each input that is wrong; empty when the problem lies elsewhere
 */
public record Problem(
        ProblemKind kind, int status, String code, @Nullable String scope, String detail, List<InputError> errors) {

    public static final String MEDIA_TYPE = "application/problem+json";

    private static final JsonFactory JSON = new JsonFactory();

    public Problem {
        errors = List.copyOf(errors);
    }

    public static Problem of(ProblemKind kind, String detail) {
        return new Problem(kind, kind.status(), kind.label(), null, detail, List.of());
    }

    /** A bad-input problem that names every wrong input. */
    public static Problem badInput(List<InputError> errors) {
        String name = errors.isEmpty() ? "" : errors.getFirst().name();
        String detail = errors.size() == 1
                ? "One input needs mending: " + (name.isEmpty() ? "the body" : "'" + name + "'") + "."
                : errors.size() + " inputs need mending.";
        ProblemKind kind = ProblemKind.BAD_INPUT;
        return new Problem(kind, kind.status(), kind.label(), null, detail, errors);
    }

    /** The same, which other inputs are to blame for. */
    public Problem withErrors(List<InputError> others) {
        return new Problem(kind, status, code, scope, detail, others);
    }

    /** The same under another status. */
    public Problem withStatus(int other) {
        return new Problem(kind, other, code, scope, detail, errors);
    }

    /** A module's own rule has a type of its own: behind its kind's page, so that the address leads to an explanation. */
    public String type() {
        return scope == null ? kind.type() : type(kind, scope, code);
    }

    /** The type of a module's own rule. */
    public static String type(ProblemKind kind, String scope, String code) {
        return kind.type() + "#" + scope + "/" + code;
    }

    /** The document in UTF-8, for an answer that may be given more than once. */
    public byte[] json() {
        return json(null);
    }

    /**
     * The document in UTF-8.
     *
     * @param requestId what the request is called in logs; null for none
     */
    public byte[] json(@Nullable String requestId) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            json.writeStringProperty("type", type());
            json.writeStringProperty("title", kind.title());
            json.writeNumberProperty("status", status);
            json.writeStringProperty("detail", detail);
            json.writeStringProperty("code", code);
            if (requestId != null) {
                json.writeStringProperty("requestId", requestId);
            }
            if (!errors.isEmpty()) {
                json.writeArrayPropertyStart("errors");
                for (InputError error : errors) {
                    json.writeStartObject();
                    json.writeStringProperty(error.in().equals("body") ? "pointer" : "parameter", error.name());
                    json.writeStringProperty("in", error.in());
                    json.writeStringProperty("detail", error.detail());
                    json.writeEndObject();
                }
                json.writeEndArray();
            }
            json.writeEndObject();
        }
        return bytes.toByteArray();
    }
}
