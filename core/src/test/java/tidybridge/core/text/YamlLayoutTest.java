package tidybridge.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class YamlLayoutTest {

    private static Written.Keys keys(Object... pairs) {
        Written.Collector keys = new Written.Collector();
        for (int i = 0; i < pairs.length; i += 2) {
            keys.put(
                    (String) pairs[i],
                    pairs[i + 1] instanceof Written value ? value : Written.text((String) pairs[i + 1]));
        }
        return keys.keys();
    }

    @Test
    void aModuleStandsAsAPersonWouldWriteIt() {
        Written id = keys("in", "path", "type", "integer", "example", Written.typed(1));
        Written get = keys(
                "about", "One berth, by its number", "sql", "berth.sql", "answer", "row", "parameters", keys("id", id));
        Written.Keys module = new Written.Keys(List.of(
                new Written.Entry("module", Written.text("berths")),
                new Written.Entry("version", Written.text("1.0.0"), List.of(), "# the first"),
                new Written.Entry("page", keys("limit", Written.typed(25), "most", Written.typed(200))),
                new Written.Entry(
                        "accept", keys("open-to-everybody", "the counters: all of them"), List.of("", "# known"), null),
                new Written.Entry("routes", keys("/berths/{id}", keys("get", get)), List.of(""), null)));
        assertThat(YamlLayout.write(module)).isEqualTo("""
                module: berths
                version: 1.0.0 # the first
                page: { limit: 25, most: 200 }

                # known
                accept:
                  open-to-everybody: "the counters: all of them"

                routes:
                  /berths/{id}:
                    get:
                      about: One berth, by its number
                      sql: berth.sql
                      answer: row
                      parameters:
                        id: { in: path, type: integer, example: 1 }
                """);
    }

    @Test
    void oneKeyInAListNeedsNoBraces() {
        Written filter =
                new Written.Items(List.of(keys("rate", Written.texts(List.of("gte", "lte"))), Written.text("name")));
        assertThat(YamlLayout.lines(new Written.Entry("filter", filter), List.of("routes", "/x", "get")))
                .containsExactly("      filter: [rate: [gte, lte], name]");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                " ",
                "12",
                "-1.5",
                "true",
                "No",
                "null",
                "~",
                "a: b",
                "a #b",
                "- a",
                "a,b",
                "[a",
                "{a}",
                "it's",
                "say \"so\"",
                "C:\\quay",
                "\\ and \"",
                "*",
                "&a",
                "!x",
                "%",
                "@",
                "`",
                "?",
                "2031-05-01",
                "09:30",
                "a:",
                ":a",
                "#",
                "line\nline",
                "\ttab",
                "é",
                "\u0085",
                "\ufeff",
                "0x1f",
                "1e5",
                ".inf",
                "'",
                "\"",
                "=",
                "<<"
            })
    void everyTextIsReadAsItself(String text) throws Exception {
        assertThat(readBack(text)).containsExactly(text, text, text);
    }

    @Test
    void randomTextsAreReadAsThemselves() throws Exception {
        Random random = new Random(15);
        String letters = "ab :#,[]{}'\"\\-\n\t0é&*!|>%@`?.~=";
        for (int round = 0; round < 20_000; round++) {
            StringBuilder text = new StringBuilder();
            for (int length = random.nextInt(6); length >= 0; length--) {
                text.append(letters.charAt(random.nextInt(letters.length())));
            }
            assertThat(readBack(text.toString())).containsExactly(text.toString(), text.toString(), text.toString());
        }
    }

    /** A text as the value of a key, of a key in braces, and in a list. */
    private static List<String> readBack(String text) throws Exception {
        String yaml = YamlLayout.write(keys("a", text, "b", keys("c", text), "d", Written.texts(List.of(text))));
        Node.Mapping root =
                (Node.Mapping) YamlText.read(new SourceText("x", yaml)).orElseThrow();
        List<Node> found = new ArrayList<>();
        found.add(root.get("a"));
        found.add(((Node.Mapping) root.entries().get(1).value()).get("c"));
        found.add(((Node.Sequence) root.entries().get(2).value()).items().getFirst());
        return found.stream()
                .map(node -> {
                    Node.Scalar scalar = (Node.Scalar) node;
                    boolean number = scalar.plain() && scalar.text().matches("(?i)-?\\d+(\\.\\d+)?|true|false|null|~|");
                    assertThat(number).as(yaml).isFalse();
                    return scalar.text();
                })
                .toList();
    }
}
