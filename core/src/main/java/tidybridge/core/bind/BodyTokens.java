package tidybridge.core.bind;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Surrogates;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.io.JsonStringEncoder;
import tools.jackson.core.json.JsonFactory;

/**
 * The tokens of a JSON text (RFC 8259) one after the other, read strictly: UTF-8 only, no key twice, and no more of anything than a body
 * can need. Nothing is built that nobody asks for. Used by one thread, once.
 */
final class BodyTokens implements AutoCloseable {

    private static final int DEEPEST = 50;
    private static final int LONGEST_NUMBER = 200;
    private static final int LONGEST_NAME = 500;

    /** Values, names and brackets of one body. */
    private static final int MOST_TOKENS = 250_000;

    /** The names of one object: all are kept until it ends, so that none comes twice. */
    private static final int MOST_MEMBERS = 10_000;

    private static final int USUAL_TEXT = 128;
    private static final int CHECKED_AT_ONCE = 8 * 1024;

    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(DEEPEST)
                    .maxNumberLength(LONGEST_NUMBER)
                    .maxNameLength(LONGEST_NAME)
                    .maxTokenCount(MOST_TOKENS)
                    .build())
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .build();

    private final JsonParser parser;
    private final int[] members = new int[DEEPEST + 2];
    private int depth;

    private BodyTokens(JsonParser parser) {
        this.parser = parser;
    }

    /** The text cannot be read any further; the message is a clause about it that repeats none of it. */
    static final class Broken extends Exception {
        Broken(String clause) {
            super(clause, null, false, false);
        }

        String clause() {
            return String.valueOf(getMessage());
        }
    }

    /**
     * Begins to read.
     *
     * @throws Broken when the bytes are not UTF-8
     */
    static BodyTokens of(byte[] body) throws Broken {
        if (!isUtf8(body)) {
            throw new Broken("is not UTF-8 text");
        }
        return new BodyTokens(JSON.createParser(ObjectReadContext.empty(), body));
    }

    /** Reads a part again that {@link #text} gave. */
    static BodyTokens of(String text) {
        return new BodyTokens(JSON.createParser(ObjectReadContext.empty(), text));
    }

    private static boolean isUtf8(byte[] body) {
        CharsetDecoder decoder = StandardCharsets.UTF_8.newDecoder();
        CharBuffer chars = CharBuffer.allocate(Math.min(CHECKED_AT_ONCE, body.length + 1));
        ByteBuffer bytes = ByteBuffer.wrap(body);
        CoderResult result;
        do {
            chars.clear();
            result = decoder.decode(bytes, chars, true);
        } while (result.isOverflow());
        return !result.isError();
    }

    /** The next token; null behind the end. */
    @Nullable
    JsonToken next() throws Broken {
        JsonToken token;
        try {
            token = parser.nextToken();
        } catch (JacksonException e) {
            throw new Broken(clause(e));
        }
        switch (token) {
            case START_OBJECT, START_ARRAY -> members[++depth] = 0;
            case END_OBJECT, END_ARRAY -> depth--;
            case PROPERTY_NAME -> {
                if (++members[depth] > MOST_MEMBERS) {
                    throw new Broken("has an object of more than " + MOST_MEMBERS + " names" + where());
                }
            }
            case null, default -> {}
        }
        return token;
    }

    JsonToken token() {
        return parser.currentToken();
    }

    /** The name of the value that follows, or is here. */
    String name() {
        return parser.currentName();
    }

    /** The text of a string, or a number as it was written. */
    String string() throws Broken {
        try {
            return parser.getString();
        } catch (JacksonException e) {
            throw new Broken(clause(e));
        }
    }

    /** Where the value that begins here ends, for {@link #leave}. */
    int outside() {
        return parser.currentToken().isStructStart() ? depth - 1 : depth;
    }

    /** Passes over what is left of a value. */
    void leave(int outside) throws Broken {
        while (depth > outside) {
            next();
        }
    }

    /** The value that begins here as compact text, read to its end; numbers stay as they were written. */
    String text() throws Broken {
        int outside = outside();
        StringBuilder text = new StringBuilder(USUAL_TEXT);
        copy(text);
        while (depth > outside) {
            next();
            copy(text);
        }
        return text.toString();
    }

    private void copy(StringBuilder text) throws Broken {
        JsonToken token = parser.currentToken();
        if (!token.isStructEnd()) {
            separate(text);
        }
        switch (token) {
            case PROPERTY_NAME -> quoted(text, name()).append(':');
            case VALUE_STRING -> quoted(text, string());
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> written(text);
            default -> text.append(token.asString());
        }
    }

    /** A comma, unless something begins. */
    private static void separate(StringBuilder text) {
        char before = text.isEmpty() ? '[' : text.charAt(text.length() - 1);
        if (before != '[' && before != '{' && before != ':') {
            text.append(',');
        }
    }

    private StringBuilder quoted(StringBuilder text, String value) throws Broken {
        text.append('"');
        JsonStringEncoder.getInstance().quoteAsString(whole(value), text);
        return text.append('"');
    }

    /** A number's own characters, without a text of its own for each. */
    private void written(StringBuilder text) throws Broken {
        try {
            text.append(parser.getStringCharacters(), parser.getStringOffset(), parser.getStringLength());
        } catch (JacksonException e) {
            throw new Broken(clause(e));
        }
    }

    private String whole(String text) throws Broken {
        if (Surrogates.isLoneIn(text)) {
            throw new Broken("has a text with half a character (a lone surrogate)" + where());
        }
        return text;
    }

    private String where() {
        return " at line " + parser.currentTokenLocation().getLineNr() + ", column "
                + parser.currentTokenLocation().getColumnNr();
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
        if (original.contains("oken count")) {
            return "has more than " + MOST_TOKENS + " values, names and brackets; send less at once";
        }
        return "is not valid JSON" + where;
    }

    @Override
    public void close() {
        parser.close();
    }
}
