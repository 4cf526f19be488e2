package tidybridge.core.bind;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Nearest;
import tools.jackson.core.JsonToken;

/**
 * The parts of a JSON body that an operation reads, as the tree that their pointers (RFC 6901) form. A body is read in one pass; what no
 * parameter reads is told and passed over, never built. Immutable and thread-safe.
 */
final class JsonBody {

    /** A pointer of the caller's own making is cut where it is told. */
    private static final int LONGEST_SHOWN = 60;

    private final Part root;
    private final Map<String, Integer> parameters;

    /** A part that is read, or that others are inside of. */
    private static final class Part {
        private final Map<String, Part> below = new HashMap<>();
        private int parameter = -1;
        /** Names stand below it, and not only the numbers that an array has too. */
        private boolean named;
    }

    /**
     * Knows the parts of a body.
     *
     * @param parameters the index of the parameter for each JSON Pointer, which is empty for the whole body
     */
    JsonBody(Map<String, Integer> parameters) {
        this.parameters = Map.copyOf(parameters);
        this.root = new Part();
        parameters.forEach((pointer, index) -> {
            Part part = root;
            for (String name :
                    pointer.isEmpty() ? new String[0] : pointer.substring(1).split("/", -1)) {
                part.named |= !name.matches("\\d+");
                part = part.below.computeIfAbsent(name.replace("~1", "/").replace("~0", "~"), any -> new Part());
            }
            part.parameter = index;
        });
    }

    /** Takes what a body holds. */
    interface Taker {
        /** The value of a parameter begins at the current token; what is not read of it is passed over. */
        void value(int parameter, BodyTokens tokens) throws BodyTokens.Broken;

        /** Something is wrong with a part. */
        void mistake(String pointer, String clause);

        /** True when so much is wrong already that nothing more needs to be read. */
        boolean isFlooded();
    }

    /**
     * Reads a whole body.
     *
     * @return false when it could not be read to its end, which the taker was told
     */
    boolean read(byte[] body, Taker taker) {
        return reading(body, taker, tokens -> part(root, "", tokens, taker));
    }

    /** Reads something of a body's tokens. */
    private interface Passage {
        void read(BodyTokens tokens) throws BodyTokens.Broken;
    }

    private static boolean reading(byte[] body, Taker taker, Passage passage) {
        try (BodyTokens tokens = BodyTokens.of(body)) {
            if (tokens.next() != null) {
                passage.read(tokens);
                if (!taker.isFlooded() && tokens.next() != null) {
                    throw new BodyTokens.Broken("has something behind its end");
                }
            }
            return !taker.isFlooded();
        } catch (BodyTokens.Broken e) {
            taker.mistake("", e.clause());
            return false;
        }
    }

    /** Takes the rows of a batch. */
    interface RowTaker extends Taker {
        void begin(int row);

        void end();
    }

    /**
     * Reads a body that is an array of rows.
     *
     * @param most rows
     * @return as {@link #read}
     */
    boolean rows(byte[] body, int most, RowTaker taker) {
        return reading(body, taker, tokens -> {
            if (tokens.token() != JsonToken.START_ARRAY) {
                throw new BodyTokens.Broken("must be an array of rows");
            }
            int row = 0;
            while (tokens.next() != JsonToken.END_ARRAY && !taker.isFlooded()) {
                if (row == most) {
                    throw new BodyTokens.Broken("holds more than " + most + " rows");
                }
                taker.begin(row);
                part(root, "", tokens, taker);
                taker.end();
                row++;
            }
            if (row == 0) {
                throw new BodyTokens.Broken("holds no row");
            }
        });
    }

    private void part(Part part, String pointer, BodyTokens tokens, Taker taker) throws BodyTokens.Broken {
        int outside = tokens.outside();
        JsonToken token = tokens.token();
        if (part.parameter >= 0 && part.below.isEmpty()) {
            taker.value(part.parameter, tokens);
        } else if (part.parameter >= 0) {
            twice(part, pointer, tokens.text(), taker);
        } else if (token == JsonToken.START_OBJECT) {
            while (!taker.isFlooded() && tokens.next() == JsonToken.PROPERTY_NAME) {
                below(part, tokens.name(), pointer, tokens, taker);
            }
        } else if (token == JsonToken.START_ARRAY && !part.named) {
            for (int i = 0; !taker.isFlooded() && tokens.next() != JsonToken.END_ARRAY; i++) {
                item(part.below.get(String.valueOf(i)), pointer + "/" + i, tokens, taker);
            }
        } else {
            taker.mistake(pointer, "must be a JSON object");
        }
        if (!taker.isFlooded()) {
            tokens.leave(outside);
        }
    }

    private void below(Part part, String name, String pointer, BodyTokens tokens, Taker taker)
            throws BodyTokens.Broken {
        Part known = part.below.get(name);
        String inside = pointer + "/" + name.replace("~", "~0").replace("/", "~1");
        tokens.next();
        item(known, inside, tokens, taker);
    }

    private void item(@Nullable Part known, String pointer, BodyTokens tokens, Taker taker) throws BodyTokens.Broken {
        if (known != null) {
            part(known, pointer, tokens, taker);
            return;
        }
        int outside = tokens.outside();
        String shown = pointer.length() <= LONGEST_SHOWN ? pointer : pointer.substring(0, LONGEST_SHOWN) + "...";
        taker.mistake(shown, "is not known here." + Nearest.hint(shown, parameters.keySet()));
        if (!taker.isFlooded()) {
            tokens.leave(outside);
        }
    }

    /** One parameter takes a part whole, and others take what is inside of it. */
    private void twice(Part part, String pointer, String text, Taker taker) throws BodyTokens.Broken {
        try (BodyTokens whole = BodyTokens.of(text)) {
            whole.next();
            taker.value(part.parameter, whole);
        }
        Part inside = new Part();
        inside.below.putAll(part.below);
        inside.named = part.named;
        try (BodyTokens parts = BodyTokens.of(text)) {
            parts.next();
            part(inside, pointer, parts, new Taker() {
                @Override
                public void value(int parameter, BodyTokens tokens) throws BodyTokens.Broken {
                    taker.value(parameter, tokens);
                }

                @Override
                public void mistake(String pointer, String clause) {
                    // the parameter that takes it whole knows what it may be
                }

                @Override
                public boolean isFlooded() {
                    return taker.isFlooded();
                }
            });
        }
    }
}
