package tidybridge.core.sql;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * What one database's SQL looks like, as far as it differs from others': how a text is cut into tokens, how a name is quoted, how a
 * page is written, and where a refusal points. One value for each database, immutable and thread-safe.
 */
public abstract class Dialect {

    private static final Dialect USUAL = new MariaDbDialect();
    private static final Pattern PLAIN_NAME = Pattern.compile("[A-Za-z_][A-Za-z0-9_]*");

    /** Only this package knows how to read a text. */
    Dialect() {}

    /** The dialect of a text whose source says nothing else. */
    public static Dialect usual() {
        return USUAL;
    }

    abstract Lexed cut(SourceText source) throws BrokenText;

    /** Whether a name may start with this char. */
    abstract boolean startsName(char c);

    /** A name in quotes, whatever chars it has. */
    public abstract String quoted(String name);

    /** A name as somebody would write it: in quotes only where it needs them. */
    public final String named(String name) {
        boolean plain = PLAIN_NAME.matcher(name).matches() && !isReserved(name.toLowerCase(Locale.ROOT));
        return plain ? name : quoted(name);
    }

    /** Whether a name, in lower case, is a word of the language that stands for itself alone. */
    abstract boolean isReserved(String lower);

    /** A query for what stands in {@code in ()} when a list is empty: it is true of no value, and {@code not in} of every one. */
    public abstract String emptyList();

    /**
     * The place of a member in its list, as a whole number; of several members, all of their places.
     *
     * @param column of an enum or a set
     */
    public abstract String memberPlace(String column);

    /** Some value of a kind, as it is written where a statement has it in place of a question mark. */
    abstract String literal(ValueKind kind);

    /** What ends a query so that it returns at most as many rows as the last question mark says. */
    public abstract String limit();

    /**
     * Where a statement is that the database refused, as far as the reason tells.
     *
     * @param reason the database's own words
     */
    public final Optional<Place> placeOf(Statement statement, String reason) {
        Matcher matcher = refusal().matcher(reason);
        return matcher.find() ? RefusalPlace.of(statement, matcher.group(1)) : Optional.empty();
    }

    /** Finds, as its first group, what a refusal names. */
    abstract Pattern refusal();
}
