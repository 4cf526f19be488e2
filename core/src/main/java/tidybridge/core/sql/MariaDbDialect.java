package tidybridge.core.sql;

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
    public String emptyList() {
        return "select null from dual where false";
    }

    @Override
    public String memberPlace(String column) {
        return "cast(" + column + " as unsigned)";
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
