package tidybridge.core.pattern;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Map;

/**
 * Writes a pattern of JSON Schema's dialect in the words of the engine, which differ for escapes, spaces and line ends, and counts the
 * steps it has once all repetitions are written out. Used once.
 */
final class Translation {

    private static final int LONGEST = 4_000;
    private static final int DEEPEST = 100;
    private static final int MOST_STEPS = 5_000;
    private static final int MOST_REPETITIONS = 1_000;

    private static final String LINE_ENDS = "\\n\\r\\x{2028}\\x{2029}";

    /** What ECMA-262 calls white space and line ends, and all the rest. */
    private static final String SPACE =
            "\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}";

    private static final String NO_SPACE =
            "\\x{0}-\\x{8}\\x{e}-\\x{1f}\\x{21}-\\x{9f}\\x{a1}-\\x{167f}\\x{1681}-\\x{1fff}\\x{200b}-\\x{2027}\\x{202a}-\\x{202e}"
                    + "\\x{2030}-\\x{205e}\\x{2060}-\\x{2fff}\\x{3001}-\\x{fefe}\\x{ff00}-\\x{10ffff}";

    private static final Map<String, String> CATEGORIES = Map.ofEntries(
            Map.entry("Letter", "L"),
            Map.entry("Uppercase_Letter", "Lu"),
            Map.entry("Lowercase_Letter", "Ll"),
            Map.entry("Titlecase_Letter", "Lt"),
            Map.entry("Modifier_Letter", "Lm"),
            Map.entry("Other_Letter", "Lo"),
            Map.entry("Mark", "M"),
            Map.entry("Number", "N"),
            Map.entry("Decimal_Number", "Nd"),
            Map.entry("Punctuation", "P"),
            Map.entry("Symbol", "S"),
            Map.entry("Separator", "Z"),
            Map.entry("Space_Separator", "Zs"));

    private final String text;
    private final StringBuilder out = new StringBuilder();

    /** The steps of each group that is open, and of the last part of the innermost one. */
    private final Deque<Long> outer = new ArrayDeque<>();

    private long steps;
    private long last;
    private int at;

    Translation(String text) {
        this.text = text;
    }

    String run() throws TextPattern.Unfit {
        if (text.length() > LONGEST) {
            throw new TextPattern.Unfit("is longer than " + LONGEST + " characters");
        }
        while (at < text.length()) {
            char c = text.charAt(at);
            switch (c) {
                case '\\' -> {
                    String escape = escape();
                    add(isSet(escape) ? "[" + escape + "]" : escape);
                }
                case '[' -> characters();
                case '(' -> open();
                case ')' -> close();
                case '.' -> {
                    at++;
                    add("[^" + LINE_ENDS + "]");
                }
                case '*', '+', '?' -> {
                    at++;
                    repeated(String.valueOf(c), last + 1);
                }
                case '{' -> repetition();
                case '|' -> {
                    at++;
                    add("|");
                }
                default -> {
                    int point = text.codePointAt(at);
                    at += Character.charCount(point);
                    add(literal(point));
                }
            }
        }
        return out.toString();
    }

    private static boolean isSet(String escape) {
        return escape.equals(SPACE) || escape.equals(NO_SPACE);
    }

    private static String literal(int point) throws TextPattern.Unfit {
        if (point >= Character.MIN_SURROGATE && point <= Character.MAX_SURROGATE) {
            throw new TextPattern.Unfit("holds half a character");
        }
        return Character.toString(point);
    }

    private void add(String part) throws TextPattern.Unfit {
        out.append(part);
        last = 1;
        count(steps + 1);
    }

    private void count(long sum) throws TextPattern.Unfit {
        if (sum > MOST_STEPS) {
            throw new TextPattern.Unfit("has more than " + MOST_STEPS + " steps once its repetitions are written out");
        }
        steps = sum;
    }

    private void repeated(String how, long repeated) throws TextPattern.Unfit {
        out.append(how);
        count(steps - last + repeated);
        last = repeated;
        if (at < text.length() && text.charAt(at) == '?') {
            out.append('?');
            at++;
        } else if (at < text.length() && text.charAt(at) == '+') {
            throw new TextPattern.Unfit("repeats a repetition with '+'");
        }
    }

    /** {@code {2}}, {@code {2,}} or {@code {2,5}}. */
    private void repetition() throws TextPattern.Unfit {
        int end = text.indexOf('}', at);
        String inside = end < 0 ? "" : text.substring(at + 1, end);
        if (!inside.matches("\\d{1,9}(,\\d{0,9})?")) {
            throw new TextPattern.Unfit("has a '{' that begins no repetition; write '\\{' for the character");
        }
        String[] bounds = inside.split(",", -1);
        int least = Integer.parseInt(bounds[0]);
        boolean open = bounds.length == 2 && bounds[1].isEmpty();
        int most = bounds.length == 1 ? least : open ? least + 1 : Integer.parseInt(bounds[1]);
        if (Math.max(least, most) > MOST_REPETITIONS + (open ? 1 : 0)) {
            throw new TextPattern.Unfit(
                    "repeats a part more than " + MOST_REPETITIONS + " times; 'maxLength' counts further");
        }
        at = end + 1;
        repeated("{" + inside + "}", Math.max(1, last * most + (most - least)));
    }

    private void open() throws TextPattern.Unfit {
        String head = "(";
        if (text.startsWith("(?", at)) {
            int name = text.indexOf('>', at);
            if (text.startsWith("(?:", at)) {
                head = "(?:";
            } else if (text.startsWith("(?=", at) || text.startsWith("(?!", at)) {
                throw new TextPattern.Unfit("looks ahead, which cannot be done in one pass");
            } else if (text.startsWith("(?<=", at) || text.startsWith("(?<!", at)) {
                throw new TextPattern.Unfit("looks behind, which cannot be done in one pass");
            } else if (text.startsWith("(?<", at) && name > 0) {
                head = text.substring(at, name + 1);
            } else {
                throw new TextPattern.Unfit("has a group beginning with '"
                        + text.substring(at, Math.min(at + 3, text.length())) + "', which JSON Schema does not know");
            }
        }
        at += head.length();
        out.append(head);
        if (outer.size() == DEEPEST) {
            throw new TextPattern.Unfit("nests groups deeper than " + DEEPEST + " levels");
        }
        outer.push(steps);
        steps = 0;
        last = 0;
    }

    private void close() throws TextPattern.Unfit {
        if (outer.isEmpty()) {
            throw new TextPattern.Unfit("closes a group that is not open");
        }
        at++;
        out.append(')');
        last = steps + 2;
        count(outer.pop() + last);
    }

    /** {@code [a-z]}; a bracket inside means itself. */
    private void characters() throws TextPattern.Unfit {
        at++;
        boolean none = at < text.length() && text.charAt(at) == '^';
        at += none ? 1 : 0;
        StringBuilder set = new StringBuilder();
        boolean behindSet = false;
        while (at < text.length() && text.charAt(at) != ']') {
            char c = text.charAt(at);
            boolean hyphen = c == '-' && (behindSet || beginsSet(at + 1));
            behindSet = beginsSet(at);
            if (c == '\\') {
                set.append(text.startsWith("\\b", at) ? back() : escape());
            } else if (hyphen) {
                set.append("\\-");
                at++;
            } else if (c == '[' || c == '&' || c == '^' || c == '~') {
                set.append('\\').append(c);
                at++;
            } else {
                int point = text.codePointAt(at);
                set.append(literal(point));
                at += Character.charCount(point);
            }
        }
        if (at >= text.length()) {
            throw new TextPattern.Unfit("has a '[' that is not closed");
        }
        at++;
        if (set.isEmpty()) {
            add(none ? "[\\x{0}-\\x{10ffff}]" : "[^\\x{0}-\\x{10ffff}]");
        } else {
            add((none ? "[^" : "[") + set + "]");
        }
    }

    /** A hyphen beside a set of characters is no range. */
    private boolean beginsSet(int index) {
        return index + 1 < text.length()
                && text.charAt(index) == '\\'
                && "dDwWsSpP".indexOf(text.charAt(index + 1)) >= 0;
    }

    /** Inside of brackets it is a backspace. */
    private String back() {
        at += 2;
        return "\\x{8}";
    }

    /** One escape in the engine's words; behind it afterwards. */
    private String escape() throws TextPattern.Unfit {
        if (at + 1 >= text.length()) {
            throw new TextPattern.Unfit("ends with a backslash");
        }
        char c = text.charAt(at + 1);
        at += 2;
        return switch (c) {
            case 'd', 'D', 'w', 'W', 'b', 'B', 't', 'n', 'r', 'f', 'v' -> "\\" + c;
            case 's' -> SPACE;
            case 'S' -> NO_SPACE;
            case '0' -> "\\x{0}";
            case 'x' -> "\\x{" + hexadecimal(2) + "}";
            case 'u' -> "\\x{" + unicode() + "}";
            case 'c' -> control();
            case 'p', 'P' -> "\\" + c + "{" + category() + "}";
            case '1', '2', '3', '4', '5', '6', '7', '8', '9', 'k' ->
                throw new TextPattern.Unfit("refers back to a group, which cannot be done in one pass");
            default -> {
                if (c > '~' || c < ' ' || Character.isLetterOrDigit(c)) {
                    throw new TextPattern.Unfit("has the escape '\\" + c + "', which JSON Schema does not know");
                }
                yield "\\x{" + Integer.toHexString(c) + "}";
            }
        };
    }

    private String hexadecimal(int digits) throws TextPattern.Unfit {
        String hex = at + digits <= text.length() ? text.substring(at, at + digits) : "";
        if (!hex.matches("[0-9A-Fa-f]{" + digits + "}")) {
            throw new TextPattern.Unfit("has a character code that is not of " + digits + " hexadecimal digits");
        }
        at += digits;
        return hex;
    }

    /** {@code \\u00e9}, {@code \\u{1f600}}, or a pair of surrogates. */
    private String unicode() throws TextPattern.Unfit {
        if (text.startsWith("{", at)) {
            String hex = braces();
            if (!hex.matches("0{0,8}[0-9A-Fa-f]{1,6}") || Integer.parseInt(hex, 16) > Character.MAX_CODE_POINT) {
                throw new TextPattern.Unfit("has a character code that is none");
            }
            return hex;
        }
        int unit = Integer.parseInt(hexadecimal(4), 16);
        if (Character.isHighSurrogate((char) unit) && text.startsWith("\\u", at)) {
            at += 2;
            int low = Integer.parseInt(hexadecimal(4), 16);
            unit = Character.isLowSurrogate((char) low) ? Character.toCodePoint((char) unit, (char) low) : unit;
        }
        if (unit >= Character.MIN_SURROGATE && unit <= Character.MAX_SURROGATE) {
            throw new TextPattern.Unfit("holds half a character");
        }
        return Integer.toHexString(unit);
    }

    private String control() throws TextPattern.Unfit {
        char letter = at < text.length() ? text.charAt(at) : ' ';
        if (!(letter >= 'A' && letter <= 'Z' || letter >= 'a' && letter <= 'z')) {
            throw new TextPattern.Unfit("has a '\\c' without a letter");
        }
        at++;
        return "\\x{" + Integer.toHexString(letter % 32) + "}";
    }

    /** A general category or a script, as the engine calls it. */
    private String category() throws TextPattern.Unfit {
        if (!text.startsWith("{", at)) {
            throw new TextPattern.Unfit("has a '\\p' without a name in braces");
        }
        String said = braces();
        String name = said.substring(said.indexOf('=') + 1);
        return CATEGORIES.getOrDefault(name, name);
    }

    private String braces() throws TextPattern.Unfit {
        int end = text.indexOf('}', at);
        if (end < 0) {
            throw new TextPattern.Unfit("has a '{' that is not closed");
        }
        String inside = text.substring(at + 1, end);
        at = end + 1;
        return inside;
    }
}
