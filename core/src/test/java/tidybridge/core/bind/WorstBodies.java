package tidybridge.core.bind;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * Bodies of the largest size that is read, each made to cost as much as it can, for an operation with {@link #PARAMETERS}. The same go
 * against the binder, a running service and, for longer, the benchmark.
 */
public final class WorstBodies {

    /** The largest body the gateway reads, in bytes. */
    public static final int BYTES = 4 * 1024 * 1024;

    /** The parameters of an operation that all of them are sent to, as in module.yaml. */
    public static final String PARAMETERS = """
            basins: { in: body, type: array, items: { type: string, pattern: '(a*)*b' }, maxItems: 1000 }
            codes: { in: body, type: array, items: { type: string, pattern: '^[A-Z]{2}-\\d{4}$' } }
            extras: { in: body, type: object }
            lines: { in: body, type: array, items: { type: object }, maxItems: 1000 }
            note: { in: body, type: string, pattern: '^(a|b)*$' }
            range: { in: body, type: string, pattern: '\\d+-\\d+' }
            rate: { in: body, type: number, multipleOf: 0.25 }
            berth: { in: body, type: integer }
            mail: { in: body, type: string, format: email }
            day: { in: body, type: string, format: date }
            at: { in: body, type: string, format: date-time }
            photo: { in: body, type: string, format: byte }
            first: { in: body, pointer: /skipper/names/0, type: string }
            """;

    private WorstBodies() {}

    /** All of the parameters, as a statement writes them one after the other. */
    public static String binds() {
        return PARAMETERS
                .lines()
                .map(line -> ":" + line.substring(0, line.indexOf(':')))
                .collect(Collectors.joining(", "));
    }

    /** Each body by what is bad about it. */
    public static Map<String, String> all() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("a list of empty objects", "{\"basins\":[" + filled("{},", BYTES - 20) + "{}]}");
        all.put("a list of objects that is read", "{\"lines\":[" + filled("{},", BYTES - 20) + "{}]}");
        all.put("an object of empty objects", "{\"extras\":{\"a\":[" + filled("{},", BYTES - 30) + "{}]}}");
        all.put("an object of empty lists", "{\"extras\":{\"a\":[" + filled("[],", BYTES - 30) + "[]]}}");
        all.put("an object of numbers", "{\"extras\":{\"a\":[" + filled("1,", BYTES - 30) + "1]}}");
        all.put("an object of steep numbers", "{\"extras\":{\"a\":[" + filled("1e9999999,", BYTES - 30) + "1]}}");
        all.put("an object of names", "{\"extras\":{" + names(BYTES - 40) + "}}");
        all.put("unknown names", "{" + names(BYTES - 20) + "}");
        all.put("an unknown object of names", "{\"other\":{" + names(BYTES - 30) + "}}");
        all.put("unknown items", "{\"skipper\":{\"names\":[" + filled("1,", BYTES - 40) + "1]}}");
        all.put("one name again and again", "{" + filled("\"note\":\"a\",", BYTES - 20) + "\"note\":\"a\"}");
        all.put("names that are nearly known", "{" + filled("\"nite\":0,", BYTES - 20) + "\"nite\":0}");
        all.put("one long name", "{\"" + filled("x", BYTES - 20) + "\":1}");
        all.put("one long text", "{\"note\":\"" + filled("ab", BYTES - 20) + "\"}");
        all.put("one long text of escapes", "{\"note\":\"" + filled("\\u00e9", BYTES - 20) + "\"}");
        all.put("a text for a pattern of two choices", "{\"note\":\"" + filled("ab", 65_000) + "\"}");
        all.put("a text for a pattern with two parts", "{\"range\":\"" + filled("1", 65_000) + "\"}");
        all.put(
                "many texts for a costly pattern",
                "{\"basins\":[" + filled("\"" + "a".repeat(4_000) + "\",", BYTES - 5_000) + "\"\"]}");
        all.put(
                "a thousand texts for a costly pattern",
                "{\"basins\":[" + filled("\"aaaaaaaab\",", 11_900) + "\"b\"]}");
        all.put("one long number", "{\"rate\":" + filled("1", BYTES - 20) + "}");
        for (String number : new String[] {
            "1e2147483648", "-1e-2147483648", "1e99999999999999999999", "0e999999999", "1E+0000000000000000009"
        }) {
            all.put("the number " + number, "{\"rate\":" + number + ",\"berth\":" + number + "}");
        }
        for (String of : new String[] {"mail", "day", "at", "photo"}) {
            all.put("a long " + of, "{\"" + of + "\":\"" + filled("1", BYTES - 30) + "\"}");
        }
        all.put("an address of many labels", "{\"mail\":\"a@" + filled("a-.", 250) + "\"}");
        all.put("open brackets", filled("[", BYTES));
        all.put("open objects", filled("{\"a\":", BYTES));
        all.put("blanks", filled(" ", BYTES - 10) + "{}");
        all.put("line ends", "{" + filled("\n", BYTES - 10) + "\"x\":1");
        all.put("a list at the top", "[" + filled("{},", BYTES - 20) + "{}]");
        return all;
    }

    private static String filled(String part, int length) {
        return part.repeat(length / part.length());
    }

    private static String names(int length) {
        StringBuilder names = new StringBuilder(length);
        for (int i = 0; names.length() < length - 20; i++) {
            names.append('"').append(Integer.toString(i, Character.MAX_RADIX)).append("\":1,");
        }
        return names.append("\"_\":1").toString();
    }
}
