package tidybridge.core.sample;

/** Texts as literals of programming languages. */
final class Literals {

    private Literals() {}

    /** Between double quotes, as Java, JavaScript, Python, C# and Go read it. */
    static String quoted(String text) {
        StringBuilder quoted = new StringBuilder("\"");
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"', '\\' -> quoted.append('\\').append(c);
                case '\n' -> quoted.append("\\n");
                case '\r' -> quoted.append("\\r");
                case '\t' -> quoted.append("\\t");
                default -> quoted.append(c < ' ' || c == 0x7F ? "\\u%04x".formatted((int) c) : String.valueOf(c));
            }
        }
        return quoted.append('"').toString();
    }

    /** Between single quotes, as a POSIX shell reads it. */
    static String ofShell(String text) {
        return "'" + text.replace("'", "'\\''") + "'";
    }

    /** Between single quotes, as PHP reads it. */
    static String ofPhp(String text) {
        return "'" + text.replace("\\", "\\\\").replace("'", "\\'") + "'";
    }

    /** As Kotlin reads it: a dollar begins an expression there. */
    static String ofKotlin(String text) {
        return quoted(text).replace("$", "\\$");
    }

    /** In lines between backticks, as Go reads it, where there is no backtick in it. */
    static String ofGo(String text) {
        return text.indexOf('`') < 0 && text.indexOf('\r') < 0 ? "`" + text + "`" : quoted(text);
    }

    /** In lines, as a text block of Java; each line is indented. */
    static String ofJava(String text, String indent) {
        if (text.indexOf('\n') < 0) {
            return quoted(text);
        }
        String escaped =
                text.replace("\\", "\\\\").replace("\"\"\"", "\\\"\"\"").replace("\r", "\\r");
        return "\"\"\"\n" + indent + escaped.replace("\n", "\n" + indent) + "\"\"\"";
    }

    /** In lines, as a raw text of C# 11; each line is indented. */
    static String ofCSharp(String text, String indent) {
        if (text.indexOf('\n') < 0 || text.indexOf('\r') >= 0) {
            return quoted(text);
        }
        String quotes = "\"\"\"";
        while (text.contains(quotes)) {
            quotes += "\"";
        }
        return quotes + "\n" + indent + text.replace("\n", "\n" + indent) + "\n" + indent + quotes;
    }

    /** In lines, as Python reads it. */
    static String ofPython(String text) {
        if (text.indexOf('\n') < 0 || text.indexOf('\r') >= 0 || text.endsWith("\"")) {
            return quoted(text);
        }
        return "\"\"\"" + text.replace("\\", "\\\\").replace("\"\"\"", "\\\"\\\"\\\"") + "\"\"\"";
    }
}
