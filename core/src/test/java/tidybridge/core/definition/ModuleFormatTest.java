package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.core.TestScope;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.YamlText;

class ModuleFormatTest {

    private static final Path DEMO = Path.of("..", "demo", "workspace", "modules");

    private static String formatted(String yaml) throws Exception {
        return ModuleFormat.of(new SourceText("module.yaml", yaml));
    }

    /** What a text says, whatever the order of its keys. */
    private static Object said(String yaml) throws Exception {
        return data(YamlText.read(new SourceText("x", yaml)).orElseThrow());
    }

    private static Object data(Node node) {
        return switch (node) {
            case Node.Mapping mapping -> {
                Map<String, Object> data = new TreeMap<>();
                mapping.entries().forEach(entry -> data.put(entry.key(), data(entry.value())));
                yield data;
            }
            case Node.Sequence list ->
                list.items().stream().map(ModuleFormatTest::data).toList();
            case Node.Scalar scalar ->
                scalar.text() + (scalar.plain() && scalar.text().matches("\\d+|true|false") ? " plain" : "");
        };
    }

    private static List<String> comments(String yaml) {
        return yaml.lines()
                .filter(line -> line.contains("# "))
                .map(line -> line.substring(line.lastIndexOf("# ")))
                .sorted()
                .toList();
    }

    @Test
    void keysStandInOneOrderAndCommentsStayWithThem() throws Exception {
        assertThat(formatted("""
                # the harbour office keeps it
                routes:
                  # all of them
                  /quays:
                      get:
                          order: [ name,
                            id ] # unique
                          answer: rows
                          sql:   'quays.sql'   # the long one
                          parameters: { least: {type: number, in: query, about: "at least, this: long", minimum: 0} }



                  "/quays/{id}": {get: {sql: quay.sql, answer: row}}
                # its heading
                title:    Quays
                source: waterways


                version: 1.0.0
                module: quays # its name
                """)).isEqualTo("""
                module: quays # its name
                version: 1.0.0
                # its heading
                title: Quays
                source: waterways

                # the harbour office keeps it
                routes:
                  # all of them
                  /quays:
                    get:
                      sql: quays.sql # the long one
                      answer: rows
                      order: [name, id] # unique
                      parameters:
                        least: { in: query, type: number, minimum: 0, about: "at least, this: long" }

                  /quays/{id}:
                    get:
                      sql: quay.sql
                      answer: row
                """);
    }

    static List<Path> demo() throws Exception {
        try (Stream<Path> files = Files.walk(DEMO)) {
            return files.filter(file -> file.endsWith("module.yaml")).toList();
        }
    }

    @ParameterizedTest
    @MethodSource("demo")
    void theDemoSaysTheSameAndIsFormattedOnce(Path file) throws Exception {
        String yaml = Files.readString(file);
        String formatted = formatted(yaml);
        assertThat(said(formatted)).isEqualTo(said(yaml));
        assertThat(comments(formatted)).isEqualTo(comments(yaml));
        assertThat(formatted(formatted)).isEqualTo(formatted);
    }

    /** The demo's texts with their lines' keys mixed, comments strewn in, and in either kind of line ends. */
    @Test
    void whateverTheOrderItIsOneText() throws Exception {
        Random random = new Random(6);
        for (Path file : demo()) {
            String yaml = formatted(Files.readString(file));
            for (int round = 0; round < TestScope.rounds(40); round++) {
                String mixed = mixed(yaml, random);
                String again = formatted(mixed);
                assertThat(said(again)).isEqualTo(said(yaml));
                assertThat(comments(again)).as(mixed).isEqualTo(comments(mixed));
                assertThat(formatted(again)).isEqualTo(again);
            }
            assertThat(formatted(yaml.replace("\n", "\r\n"))).isEqualTo(yaml.replace("\n", "\r\n"));
        }
    }

    /** Turns the order of the module's keys around, and puts comments and empty lines above some lines. */
    private static String mixed(String yaml, Random random) {
        List<String> parts = new ArrayList<>(List.of(yaml.split("(?m)^(?=[a-z])")));
        Collections.shuffle(parts, random);
        List<String> lines = new ArrayList<>();
        int number = 0;
        for (String line : String.join("", parts).split("\n")) {
            if (random.nextInt(12) == 0 && !line.isBlank()) {
                lines.add(" ".repeat(line.length() - line.stripLeading().length()) + "# strewn " + number++);
            }
            lines.add(line);
            if (random.nextInt(20) == 0) {
                lines.add("");
            }
        }
        return String.join("\n", lines) + "\n";
    }

    @Test
    void aTextOfSeveralLinesStaysOne() throws Exception {
        assertThat(formatted("""
                module: quays
                about: |
                  All quays, with "these" words: #1
                  and a second line

                  and a last one
                routes: { /q: { get: { about: "one\\ntwo", sql: a.sql } } }
                """)).isEqualTo("""
                module: quays
                about: |
                  All quays, with "these" words: #1
                  and a second line

                  and a last one

                routes:
                  /q:
                    get:
                      about: |-
                        one
                        two
                      sql: a.sql
                """);
    }

    /** What stands in a line of its own does not always fit between commas. */
    @Test
    void aPlainWordWithACommaIsQuotedInBraces() throws Exception {
        String yaml = """
                routes:
                  /q:
                    get:
                      fields:
                        email:
                          about: Where it is, exactly [or so]
                          example: 12
                          mask: email # why
                        name:
                          about: Its name, once
                """;
        assertThat(said(formatted(yaml))).isEqualTo(said(yaml));
        assertThat(formatted(yaml)).contains("name: { about: \"Its name, once\" }", "mask: email # why");
    }

    /** Any text of blocks, braces, quotes and comments says the same afterwards, with every comment, and is in order then. */
    @Test
    void anyTextSaysTheSame() throws Exception {
        Random random = new Random(15);
        for (int round = 0; round < TestScope.rounds(5_000); round++) {
            StringBuilder yaml = new StringBuilder();
            block(random, yaml, 0, 4);
            String text = yaml.toString();
            String formatted = formatted(text);
            assertThat(said(formatted)).as(text).isEqualTo(said(text));
            assertThat(strewn(formatted)).as(text + "\n---\n" + formatted).isEqualTo(strewn(text));
            assertThat(formatted(formatted)).as(text).isEqualTo(formatted);
        }
    }

    private static List<String> strewn(String yaml) {
        return Pattern.compile("# [bc]\\d+")
                .matcher(yaml)
                .results()
                .map(MatchResult::group)
                .sorted()
                .toList();
    }

    private static final List<String> KEYS = List.of(
            "routes", "get", "sql", "fields", "about", "parameters", "in", "page", "accept", "/q/{id}", "steps", "x");
    private static final List<String> WORDS = List.of(
            "a.sql",
            "12",
            "true",
            "Where it is, exactly",
            "it's [so]",
            "50 %",
            "2031-05-01",
            "a#b",
            "\"12\"",
            "'it''s # no comment'",
            "\"a: b\"",
            "[a, \"b, c\", d: [e, f]]",
            "{ a: 1, b: \"x, y\" }",
            "{}",
            "[]",
            "|\n%s  line\n%s  # no comment",
            "");

    private static void block(Random random, StringBuilder yaml, int margin, int depth) {
        List<String> keys = new ArrayList<>(KEYS);
        Collections.shuffle(keys, random);
        String space = " ".repeat(margin);
        for (String key : keys.subList(0, 1 + random.nextInt(4))) {
            if (random.nextInt(5) == 0) {
                yaml.append(random.nextBoolean() ? "\n" : space + "# c" + random.nextInt(99) + "\n");
            }
            String quoted = key.contains("{") ? "\"" + key + "\"" : key;
            String beside = random.nextInt(5) == 0 ? " # b" + random.nextInt(99) : "";
            switch (random.nextInt(depth > 0 ? 4 : 2)) {
                case 0, 1 -> {
                    String word = WORDS.get(random.nextInt(WORDS.size()));
                    yaml.append(space).append(quoted).append(": ").append(word.replace("%s", space));
                    yaml.append(word.startsWith("|") ? "" : beside).append('\n');
                }
                case 2 -> {
                    yaml.append(space).append(quoted).append(":").append(beside).append('\n');
                    for (int item = random.nextInt(3); item >= 0; item--) {
                        yaml.append(space)
                                .append("  - ")
                                .append(WORDS.get(random.nextInt(8)))
                                .append('\n');
                    }
                }
                default -> {
                    yaml.append(space).append(quoted).append(":").append(beside).append('\n');
                    block(random, yaml, margin + 2, depth - 1);
                }
            }
        }
    }

    @Test
    void whatCannotBeReadIsLeft() {
        assertThatThrownBy(() -> formatted("module: [x\n")).isInstanceOf(BrokenText.class);
        assertThatThrownBy(() -> formatted("module: &a x\ntitle: *a\n")).isInstanceOf(BrokenText.class);
    }
}
