package tidybridge.core.document;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.YamlText;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.MissingNode;
import tools.jackson.databind.node.ObjectNode;

/** The tree of a document in JSON or YAML. */
final class DocumentTree {

    private static final int DEEPEST = 100;
    private static final int MOST_NODES = 250_000;
    private static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .build())
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();
    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

    private DocumentTree() {}

    /**
     * Reads it.
     *
     * @throws UnreadableDocument when it is too long, or neither JSON nor YAML
     */
    static JsonNode read(String text) throws UnreadableDocument {
        if (text.length() > DocumentedApi.LONGEST) {
            throw new UnreadableDocument("The document has " + text.length() + " characters, and "
                    + DocumentedApi.LONGEST + " are read at most; leave out what is not needed.");
        }
        String bare = text.startsWith("\uFEFF") ? text.substring(1) : text;
        return bare.stripLeading().startsWith("{") || bare.stripLeading().startsWith("[") ? json(bare) : yaml(bare);
    }

    private static JsonNode json(String text) throws UnreadableDocument {
        try {
            checkSize(text);
            return JSON.readTree(text);
        } catch (JacksonException e) {
            var at = e.getLocation();
            throw new UnreadableDocument("The document cannot be read as JSON"
                    + (at == null ? "" : " at line " + at.getLineNr() + ", column " + at.getColumnNr())
                    + "; nothing was made from it.");
        }
    }

    /** A tree takes far more room than its text, most of all one of many small objects; so its values are counted before there is one. */
    private static void checkSize(String text) throws UnreadableDocument {
        int values = 0;
        try (JsonParser parser = JSON.createParser(text)) {
            for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
                boolean value = token.isScalarValue() || token.isStructStart();
                if (value && ++values > MOST_NODES) {
                    throw new UnreadableDocument(
                            "The document holds more than " + MOST_NODES + " values; leave out what is not needed.");
                }
            }
        }
    }

    private static JsonNode yaml(String text) throws UnreadableDocument {
        try {
            return YamlText.readWithAliases(new SourceText("document", text), MOST_NODES)
                    .map(DocumentTree::tree)
                    .orElse(MissingNode.getInstance());
        } catch (BrokenText e) {
            throw new UnreadableDocument(
                    "The document cannot be read as YAML at line " + e.place().line() + ": " + e.reason() + ".");
        }
    }

    private static JsonNode tree(Node node) {
        return switch (node) {
            case Node.Mapping mapping -> {
                ObjectNode object = NODES.objectNode();
                mapping.entries().forEach(entry -> object.set(entry.key(), tree(entry.value())));
                yield object;
            }
            case Node.Sequence sequence -> {
                List<JsonNode> items = new ArrayList<>();
                sequence.items().forEach(item -> items.add(tree(item)));
                ArrayNode array = NODES.arrayNode(items.size());
                array.addAll(items);
                yield array;
            }
            case Node.Scalar(var place, String word, boolean plain) -> plain ? plain(word) : NODES.stringNode(word);
        };
    }

    /** A word without quotes, by the core schema of YAML 1.2. */
    private static JsonNode plain(String word) {
        if (word.isEmpty() || word.equals("~") || word.equalsIgnoreCase("null")) {
            return NODES.nullNode();
        }
        if (word.equalsIgnoreCase("true") || word.equalsIgnoreCase("false")) {
            return NODES.booleanNode(word.equalsIgnoreCase("true"));
        }
        if (word.matches("[-+]?\\d{1,100}")) {
            return NODES.numberNode(new BigInteger(word.startsWith("+") ? word.substring(1) : word));
        }
        if (word.matches("[-+]?(\\d{1,100}\\.\\d{0,100}|\\.\\d{1,100})")) {
            return NODES.numberNode(new BigDecimal(word));
        }
        return NODES.stringNode(word);
    }
}
