package tidybridge.core.sql;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The words of SQL that decide how a statement is read. The lexer classifies each word of a text once; every reader asks the token.
 * Databases have more words than these, and whatever is not here is a name like any other.
 */
public enum Word {
    /** No word of the language: a name, or no word at all. */
    NAME,
    ALL,
    ALTER(StatementKind.DDL),
    AND,
    ANY,
    AS,
    ATOMIC,
    AVG,
    BEGIN(StatementKind.SESSION),
    BETWEEN,
    BIT_AND,
    BIT_OR,
    BIT_XOR,
    BY,
    CALL(StatementKind.CALL),
    CASE,
    CHECKSUM(StatementKind.INFORMATION),
    COMMIT(StatementKind.SESSION),
    CONCAT,
    COUNT,
    CREATE(StatementKind.DDL),
    CROSS,
    DEFAULT,
    DELAYED,
    DELETE(StatementKind.DELETE),
    DESC(StatementKind.INFORMATION),
    DESCRIBE(StatementKind.INFORMATION),
    DISTINCT,
    DISTINCTROW,
    DO,
    DROP(StatementKind.DDL),
    ELSE,
    END,
    EVENT,
    EXCEPT,
    EXECUTE(StatementKind.SESSION),
    EXISTS,
    EXPLAIN(StatementKind.INFORMATION),
    FALSE,
    FETCH,
    FOR,
    FORCE,
    FROM,
    FUNCTION,
    GRANT(StatementKind.DDL),
    GROUP,
    GROUP_CONCAT,
    HAVING,
    HELP(StatementKind.INFORMATION),
    HIGH_PRIORITY,
    IF,
    IGNORE,
    IN,
    INDEX,
    INNER,
    INSERT(StatementKind.INSERT),
    INTERSECT,
    INTO,
    IS,
    JOIN,
    JSON_ARRAYAGG,
    JSON_OBJECTAGG,
    KEY,
    KILL(StatementKind.SESSION),
    LEFT,
    LIKE,
    LIMIT,
    LOAD(StatementKind.SESSION),
    LOCK(StatementKind.SESSION),
    LOOP,
    LOW_PRIORITY,
    MAX,
    MIN,
    NATURAL,
    NOT,
    NULL,
    OFFSET,
    ON,
    OR,
    ORDER,
    OUTER,
    OVER,
    PACKAGE,
    PARTITION,
    PREPARE(StatementKind.SESSION),
    PROCEDURE,
    QUICK,
    RECURSIVE,
    RENAME(StatementKind.DDL),
    REPEAT,
    REPLACE(StatementKind.REPLACE),
    RETURNING,
    REVOKE(StatementKind.DDL),
    RIGHT,
    ROLLBACK(StatementKind.SESSION),
    SELECT(StatementKind.QUERY),
    SET(StatementKind.SET),
    SHOW(StatementKind.INFORMATION),
    SOME,
    START(StatementKind.SESSION),
    STD,
    STDDEV,
    STRAIGHT_JOIN,
    SUM,
    TABLE(StatementKind.QUERY),
    TABLESAMPLE,
    THEN,
    TRIGGER,
    TRUE,
    TRUNCATE(StatementKind.DDL),
    UNION,
    UNLOCK(StatementKind.SESSION),
    UPDATE(StatementKind.UPDATE),
    USE(StatementKind.SESSION),
    USING,
    VALUE,
    VALUES(StatementKind.QUERY),
    VARIANCE,
    WHEN,
    WHERE,
    WHILE,
    WINDOW,
    WITH,
    WORK,
    XOR;

    private static final Map<String, Word> KNOWN = new HashMap<>();
    private static final int LONGEST;

    static {
        int longest = 0;
        for (Word word : values()) {
            if (word != NAME) {
                KNOWN.put(word.name(), word);
                longest = Math.max(longest, word.name().length());
            }
        }
        LONGEST = longest;
    }

    private final @Nullable StatementKind begins;

    Word() {
        this.begins = null;
    }

    Word(StatementKind begins) {
        this.begins = begins;
    }

    /** Classifies a stretch of text, without regard to case; {@link #NAME} when it is none of these words. */
    static Word of(String text, int start, int end) {
        int length = end - start;
        if (length < 2 || length > LONGEST) {
            return NAME;
        }
        char[] upper = new char[length];
        for (int i = 0; i < length; i++) {
            char c = text.charAt(start + i);
            upper[i] = c >= 'a' && c <= 'z' ? (char) (c - ('a' - 'A')) : c;
        }
        Word word = KNOWN.get(new String(upper));
        return word == null ? NAME : word;
    }

    /** The kind of a statement that begins with this word; null when none does. */
    @Nullable
    StatementKind begins() {
        return begins;
    }
}
