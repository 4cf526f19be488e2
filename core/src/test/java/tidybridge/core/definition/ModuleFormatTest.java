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
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
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
            for (int round = 0; round < 40; round++) {
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
    void whatCannotBeReadIsLeft() {
        assertThatThrownBy(() -> formatted("module: [x\n")).isInstanceOf(BrokenText.class);
        assertThatThrownBy(() -> formatted("module: &a x\ntitle: *a\n")).isInstanceOf(BrokenText.class);
    }
}
