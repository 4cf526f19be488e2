package tidybridge.service.assistant;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.JsonNodeFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * A message of JSON-RPC 2.0, and what is answered to it.
 *
 * @param id a text or a whole number; null for a message that is not answered
 * @param method empty for an answer, which nobody here waits for
 * @param parameters empty for none
 */
record Message(@Nullable JsonNode id, String method, ObjectNode parameters) {

    static final int NOT_JSON = -32_700;
    static final int NO_REQUEST = -32_600;
    static final int METHOD_UNKNOWN = -32_601;
    static final int PARAMETERS_UNFIT = -32_602;

    private static final int LONGEST_ID = 200;

    /** Numbers are kept as they were written, and of two equal names none is dropped silently. */
    static final JsonMapper JSON = JsonMapper.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    /** Why a message is not answered with a result. */
    static final class Wrong extends Exception {
        private static final long serialVersionUID = 1L;
        private final int code;

        Wrong(int code, String message) {
            super(message);
            this.code = code;
        }

        int code() {
            return code;
        }
    }

    static Message read(byte[] body) throws Wrong {
        JsonNode read;
        try {
            read = JSON.readTree(body);
        } catch (JacksonException e) {
            throw new Wrong(NOT_JSON, "The message is no JSON, or has a name twice: " + e.getOriginalMessage());
        }
        if (!(read instanceof ObjectNode message)
                || !message.path("jsonrpc").asString("").equals("2.0")) {
            throw new Wrong(NO_REQUEST, "Send one message of JSON-RPC 2.0 at a time, as an object.");
        }
        JsonNode id = message.get("id");
        boolean named = id == null
                || id.isString() && id.asString().length() <= LONGEST_ID
                || id.isIntegralNumber() && id.toString().length() <= LONGEST_ID;
        if (!named) {
            throw new Wrong(
                    NO_REQUEST,
                    "The message's 'id' is a whole number, or a text of " + LONGEST_ID + " characters at most.");
        }
        JsonNode parameters = message.path("params");
        if (!parameters.isMissingNode() && !parameters.isObject()) {
            throw new Wrong(NO_REQUEST, "The message's 'params' are an object.");
        }
        return new Message(
                id,
                message.path("method").asString(""),
                parameters instanceof ObjectNode object ? object : JSON.createObjectNode());
    }

    /** The answer with a result. */
    byte[] answer(ObjectNode result) {
        ObjectNode answer = JSON.createObjectNode().put("jsonrpc", "2.0");
        answer.set("id", id);
        answer.set("result", result);
        return JSON.writeValueAsBytes(answer);
    }

    /**
     * The answer with an error.
     *
     * @param id null where it could not be read
     */
    static byte[] answer(@Nullable JsonNode id, Wrong wrong) {
        ObjectNode answer = JSON.createObjectNode().put("jsonrpc", "2.0");
        answer.set("id", id);
        answer.putObject("error").put("code", wrong.code()).put("message", wrong.getMessage());
        return JSON.writeValueAsString(answer).getBytes(StandardCharsets.UTF_8);
    }
}
