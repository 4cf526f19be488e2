package tidybridge.core.compile;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Statement;

/**
 * Tells whether the first rows of a query can be read by a statement of their own, ahead of the others and in the same state of the
 * database: both then find what one statement would have found. That is so for plain columns of transactional tables without a function that
 * may say something else the second time.
 */
final class HeadStart {

    /** What stands between quotes, and comments. */
    private static final Pattern QUOTED = Pattern.compile(
            "'(?:[^'\\\\]|\\\\.|'')*+'|\"(?:[^\"\\\\]|\\\\.)*+\"|/\\*.*?\\*/|--[^\n]*|#[^\n]*", Pattern.DOTALL);

    private static final Pattern CALLED = Pattern.compile("([\\w$`]+)\\s*\\(");
    private static final Pattern CHANGING =
            Pattern.compile("(?i)@|\\b(current_\\w+|localtime\\w*|utc_\\w+|next\\s+value|previous\\s+value)\\b");
    private static final Set<String> BEFORE_PARENTHESES =
            Set.of("in", "and", "or", "not", "on", "where", "using", "from", "join", "when", "then", "else", "by");

    private HeadStart() {}

    /**
     * True where it is certain.
     *
     * @param sql the statement as it is sent
     */
    static boolean isPossible(Statement statement, String sql, Contents contents) {
        Outline outline = statement.outline();
        Block main = outline.main();
        return main != null
                && statement.takesConditions()
                && !outline.combined()
                && main.items().stream().allMatch(item -> item.star() || item.column() != null)
                && outline.blocks().stream()
                        .flatMap(block -> block.tables().stream())
                        .allMatch(table -> contents.relation(table.schema(), String.valueOf(table.name()))
                                .filter(HeadStart::staysTheSame)
                                .isPresent())
                && callsNothing(QUOTED.matcher(sql).replaceAll(" "));
    }

    private static boolean staysTheSame(Relation table) {
        return table.kind() == Relation.Kind.TABLE && table.transactional();
    }

    private static boolean callsNothing(String sql) {
        if (CHANGING.matcher(sql).find()) {
            return false;
        }
        Matcher called = CALLED.matcher(sql);
        while (called.find()) {
            if (!BEFORE_PARENTHESES.contains(called.group(1).toLowerCase(Locale.ROOT))) {
                return false;
            }
        }
        return true;
    }
}
