package tidybridge.core.problem;

import java.io.ByteArrayOutputStream;
import java.util.List;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/**
 * An error as people and programs outside see it: a problem document of RFC 9457.
 *
 * @param status the HTTP status, the kind's own unless a definition says otherwise
 * @param detail one sentence for the caller that says what happened and what to do
 * @param errors each input that is wrong; empty when the problem lies elsewhere
 */
public record Problem(ProblemKind kind, int status, String detail, List<InputError> errors) {

    public static final String MEDIA_TYPE = "application/problem+json";

    private static final JsonFactory JSON = new JsonFactory();

    public Problem {
        errors = List.copyOf(errors);
    }

    public static Problem of(ProblemKind kind, String detail) {
        return new Problem(kind, kind.status(), detail, List.of());
    }

    /** A bad-input problem that names every wrong input. */
    public static Problem badInput(List<InputError> errors) {
        String name = errors.isEmpty() ? "" : errors.getFirst().name();
        String detail = errors.size() == 1
                ? "One input needs mending: " + (name.isEmpty() ? "the body" : "'" + name + "'") + "."
                : errors.size() + " inputs need mending.";
        return new Problem(ProblemKind.BAD_INPUT, ProblemKind.BAD_INPUT.status(), detail, errors);
    }

    /** The document in UTF-8. */
    public byte[] json() {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(256);
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), bytes)) {
            json.writeStartObject();
            json.writeStringProperty("type", kind.type());
            json.writeStringProperty("title", kind.title());
            json.writeNumberProperty("status", status);
            json.writeStringProperty("detail", detail);
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
