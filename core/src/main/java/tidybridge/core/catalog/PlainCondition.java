package tidybridge.core.catalog;

import java.util.Set;

/**
 * Reads a condition in a server's plan as far as it is plain: comparisons of columns with literals that all must hold. Walks the text once;
 * what callers sent may stand in it.
 */
final class PlainCondition {

    private static final String AND = " and ";
    private static final String[] COMPARISONS = {" >= ", " <= ", " <=> ", " = ", " > ", " < "};

    private final Set<String> columns;
    private final String text;
    private int at;

    private PlainCondition(Set<String> columns, String text) {
        this.columns = columns;
        this.text = text;
    }

    /** True for a plain condition on nothing but these columns, and for none at all. */
    static boolean isOn(Set<String> columns, String text) {
        PlainCondition condition = new PlainCondition(columns, text);
        if (text.isEmpty()) {
            return true;
        }
        do {
            if (!condition.comparison()) {
                return false;
            }
        } while (condition.take(AND));
        return condition.at == text.length();
    }

    private boolean comparison() {
        if (!column()) {
            return false;
        }
        for (String comparison : COMPARISONS) {
            if (take(comparison)) {
                return literal();
            }
        }
        if (take(" between ")) {
            return literal() && take(AND) && literal();
        }
        if (take(" in (")) {
            do {
                if (!literal()) {
                    return false;
                }
            } while (take(","));
            return take(")");
        }
        return take(" is null") || take(" is not null");
    }

    /** {@code table.column}, either in backquotes where it must be. */
    private boolean column() {
        String table = name();
        if (table.isEmpty() || !take(".")) {
            return false;
        }
        return columns.contains(name());
    }

    private String name() {
        int start = at;
        if (take("`")) {
            int end = text.indexOf('`', at);
            if (end < 0) {
                return "";
            }
            at = end + 1;
            return text.substring(start + 1, end);
        }
        while (at < text.length() && Character.isJavaIdentifierPart(text.charAt(at))) {
            at++;
        }
        return text.substring(start, at);
    }

    /** A number, or a text with perhaps a word before it, as in {@code DATE'2031-05-01'}. */
    private boolean literal() {
        if (take("<cache>(")) {
            return literal() && take(")");
        }
        int start = at;
        while (at < text.length() && isOfNumberOrWord(text.charAt(at))) {
            at++;
        }
        if (at < text.length() && text.charAt(at) == '\'') {
            return quoted();
        }
        return at > start && isOfNumber(text.charAt(start));
    }

    private boolean quoted() {
        at++;
        while (at < text.length()) {
            char c = text.charAt(at++);
            if (c == '\\') {
                at++;
            } else if (c == '\'' && !take("'")) {
                return true;
            }
        }
        return false;
    }

    private static boolean isOfNumberOrWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '.' || c == '+' || c == '-';
    }

    private static boolean isOfNumber(char c) {
        return c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.';
    }

    private boolean take(String expected) {
        if (text.startsWith(expected, at)) {
            at += expected.length();
            return true;
        }
        return false;
    }
}
