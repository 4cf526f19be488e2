package tidybridge.core.sql;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.regex.Pattern;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

/** MariaDB's SQL. */
final class MariaDbDialect extends Dialect {

    private static final Pattern NAMED =
            Pattern.compile("(?:Unknown column|Unknown table|Column|Table|FUNCTION|PROCEDURE|near) '?([^' ]+)");

    @Override
    Lexed cut(SourceText source) throws BrokenText {
        return new MariaDbLexer(source).scan();
    }

    @Override
    boolean startsName(char c) {
        return MariaDbLexer.isNameStart(c);
    }

    @Override
    public String quoted(String name) {
        return "`" + name.replace("`", "``") + "`";
    }

    @Override
    boolean isReserved(String lower) {
        return Reserved.WORDS.contains(lower);
    }

    /** Read when a name is first written: most commands write none. */
    private static final class Reserved {
        private static final Set<String> WORDS = read();

        private static Set<String> read() {
            try (InputStream in = MariaDbDialect.class.getResourceAsStream("mariadb-reserved.txt")) {
                if (in == null) {
                    throw new IllegalStateException("the list of reserved words is missing");
                }
                return Set.of(new String(in.readAllBytes(), StandardCharsets.UTF_8)
                        .strip()
                        .split("\\s+"));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    @Override
    public String emptyList() {
        return "select null from dual where false";
    }

    @Override
    public String memberPlace(String column) {
        return "cast(" + column + " as unsigned)";
    }

    @Override
    String literal(ValueKind kind) {
        return switch (kind) {
            case WHOLE_NUMBER -> "1";
            case EXACT_NUMBER -> "1.5";
            case FLOATING_NUMBER -> "1.5e0";
            case TRUTH -> "true";
            case TEXT -> "'a'";
            case DATE -> "date'2031-05-01'";
            case TIME -> "time'12:00:00'";
            case DATE_TIME -> "timestamp'2031-05-01 12:00:00'";
            case BYTES -> "_binary'a'";
        };
    }

    @Override
    public String limit() {
        return " limit ?";
    }

    @Override
    Pattern refusal() {
        return NAMED;
    }
}
