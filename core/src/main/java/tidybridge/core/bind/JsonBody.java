package tidybridge.core.bind;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Set;
import tidybridge.core.text.Nearest;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonPointer;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.JsonNodeFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads JSON bodies (RFC 8259) strictly: UTF-8 only, no key twice, no deep nesting, no endless numbers, nothing behind the end. Knows
 * the parts an operation takes, so that any other is told to the caller. Immutable and thread-safe.
 */
final class JsonBody {

    private static final int DEEPEST = 50;
    private static final int LONGEST_NUMBER = 200;
    private static final int LONGEST_NAME = 500;

    private static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxNumberLength(LONGEST_NUMBER)
                            .maxNameLength(LONGEST_NAME)
                            .build())
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private final Set<String> pointers;
    private final Set<String> above = new HashSet<>();

    /** Those above that cannot be arrays, because a name stands below them. */
    private final Set<String> objects = new HashSet<>();

    /**
     * Knows the parts of a body.
     *
     * @param pointers JSON Pointers (RFC 6901), empty for the whole body
     */
    JsonBody(Set<String> pointers) {
        this.pointers = Set.copyOf(pointers);
        for (String pointer : pointers) {
            for (int slash = pointer.lastIndexOf('/'); slash >= 0; slash = pointer.lastIndexOf('/', slash - 1)) {
                above.add(pointer.substring(0, slash));
                if (!pointer.substring(slash + 1).matches("\\d+(/.*)?")) {
                    objects.add(pointer.substring(0, slash));
                }
            }
        }
    }

    /** Takes what is wrong with a part of a body. */
    interface Mistakes {
        void add(String pointer, String clause);
    }

    /** The body's tree; a missing node, and a mistake, when it cannot be read. */
    static JsonNode parse(byte[] body, Mistakes mistakes) {
        try {
            String text = StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(body))
                    .toString();
            return JSON.readTree(text);
        } catch (CharacterCodingException e) {
            mistakes.add("", "is not UTF-8 text");
        } catch (JacksonException e) {
            mistakes.add("", clause(e));
        }
        return JSON.missingNode();
    }

    /** Says where and why, without repeating any of the text. */
    private static String clause(JacksonException e) {
        String original = String.valueOf(e.getOriginalMessage());
        String where = e.getLocation() == null
                ? ""
                : " at line " + e.getLocation().getLineNr() + ", column "
                        + e.getLocation().getColumnNr();
        if (original.contains("uplicate")) {
            return "has a key twice" + where;
        }
        if (original.contains("nesting depth")) {
            return "nests deeper than " + DEEPEST + " levels";
        }
        if (original.contains("umber value length")) {
            return "has a number of more than " + LONGEST_NUMBER + " characters" + where;
        }
        if (original.contains("railing token")) {
            return "has something behind its end" + where;
        }
        return "is not valid JSON" + where;
    }

    /** Tells every part that the operation does not take. */
    void refuseUnknown(JsonNode root, Mistakes mistakes) {
        if (!root.isMissingNode()) {
            refuseUnknown(root, "", mistakes);
        }
    }

    private void refuseUnknown(JsonNode node, String pointer, Mistakes mistakes) {
        if (pointers.contains(pointer)) {
            return;
        }
        if (!above.contains(pointer)) {
            String shown = pointer.length() <= 60 ? pointer : pointer.substring(0, 60) + "...";
            mistakes.add(shown, "is not known here." + Nearest.hint(shown, pointers));
        } else if (node.isObject()) {
            node.propertyStream()
                    .forEach(member ->
                            refuseUnknown(member.getValue(), pointer + "/" + escaped(member.getKey()), mistakes));
        } else if (node.isArray() && !objects.contains(pointer)) {
            for (int i = 0; i < node.size(); i++) {
                refuseUnknown(node.get(i), pointer + "/" + i, mistakes);
            }
        } else {
            mistakes.add(pointer, "must be a JSON object");
        }
    }

    private static String escaped(String name) {
        return name.replace("~", "~0").replace("/", "~1");
    }

    /** A part as compact text. */
    static String text(JsonNode node) {
        return JSON.writeValueAsString(node);
    }

    /** An array of no rows. */
    static JsonNode nothing() {
        return JSON.createArrayNode();
    }

    static JsonPointer pointer(String text) {
        return JsonPointer.compile(text);
    }
}
