package tidybridge.core.pattern;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import org.jspecify.annotations.Nullable;

/**
 * A pattern in the dialect of JSON Schema (ECMA-262 with its u flag), as far as it can be found in time that grows linearly with the
 * text: nothing that looks ahead or behind, or refers back. Immutable and thread-safe.
 */
public final class TextPattern {

    /**
     * The most effort that one request may cost, see {@link #effort}; about 20 ms of processor time, and never above 50.
     */
    public static final long MOST_EFFORT = 2_000_000;

    /** What each character costs beside the steps of its pattern. */
    private static final int EFFORT_PER_CHARACTER = 6;

    private final String text;
    private final Pattern engine;
    private final java.util.regex.@Nullable Pattern plain;

    private TextPattern(String text, Pattern engine) {
        this.text = text;
        this.engine = engine;
        this.plain = PlainPattern.of(text);
    }

    /** Says what a pattern must not hold, as one clause about it. */
    public static final class Unfit extends Exception {
        Unfit(String clause) {
            super(clause, null, false, false);
        }

        /** Such as {@code looks ahead}. */
        public String clause() {
            return String.valueOf(getMessage());
        }
    }

    /**
     * Reads a pattern.
     *
     * @throws Unfit when it is none, or cannot be found in linear time
     */
    public static TextPattern of(String text) throws Unfit {
        String translated = new Translation(text).run();
        try {
            return new TextPattern(text, Pattern.compile(translated));
        } catch (PatternSyntaxException e) {
            throw new Unfit("is no regular expression (" + e.getDescription() + ")");
        }
    }

    /** As it was written. */
    public String text() {
        return text;
    }

    /** Whether it is found somewhere in a value; anchors are the writer's business. */
    public boolean isFoundIn(String value) {
        return plain == null
                ? engine.matcher(value).find()
                : plain.matcher(value).matches();
    }

    /** What looking for it costs at most, in steps of about 10 to 25 ns; 0 for patterns that cost next to nothing. */
    public long effort(int length) {
        return plain == null ? (long) length * (EFFORT_PER_CHARACTER + engine.programSize()) : 0;
    }

    /** The longest text that a request may be asked to bring for it, in characters. */
    public int longestText() {
        return plain == null ? (int) (MOST_EFFORT / (EFFORT_PER_CHARACTER + engine.programSize())) : Integer.MAX_VALUE;
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof TextPattern pattern && pattern.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }

    @Override
    public String toString() {
        return text;
    }
}
