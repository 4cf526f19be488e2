package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import tidybridge.core.Cost;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.finding.Finding;

/** Texts that somebody may hand to the command line or the management API: each is read in a bounded time, or refused in a sentence. */
@Timeout(value = 60, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
class WorstTextsTest {

    private static final int LARGE = 400_000;

    private static final String YAML = """
            module: m
            version: 1.0.0
            title: M
            source: waterways
            public: true
            routes:
              /r:
                get:
                  about: Read
                  sql: r.sql
                  answer: row
                  parameters: { a: { in: query, type: string } }
            """;

    private static String filled(String part) {
        return part.repeat(LARGE / part.length());
    }

    private static Map<String, String> yamls() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("nested lists", "a: " + filled("["));
        all.put("nested objects", filled("{a: "));
        all.put("nested blocks", filled("- "));
        all.put("aliases of aliases", "a0: &a0 [x, x]\n" + aliases());
        all.put("a cycle", "a: &a [*a]");
        all.put("one long text", YAML + "about: '" + filled("x") + "'\n");
        all.put("many keys", YAML + keys());
        all.put("many parameters", YAML.replace("{ a: {", "{ " + parameters() + " a: {"));
        all.put("many enum members", YAML.replace("type: string }", "type: string, enum: [" + filled("x,") + "y] }"));
        all.put("a steep number", YAML.replace("type: string }", "type: number, maximum: 1e2147483647 }"));
        all.put("a steep default", YAML.replace("type: string }", "type: number, default: 1e2147483647 }"));
        all.put("a deep pattern", YAML.replace("type: string }", "type: string, pattern: '" + filled("(") + "' }"));
        all.put("a long pattern", YAML.replace("type: string }", "type: string, pattern: '" + filled("a?") + "' }"));
        all.put(
                "repeated repetitions",
                YAML.replace("type: string }", "type: string, pattern: '((((a{999}){999}){999}){999})' }"));
        all.put("a long path", YAML.replace("/r:", filled("/r") + ":"));
        all.put("many placeholders", YAML.replace("/r:", filled("/{a}") + ":"));
        all.put("comments", YAML + filled("#\n"));
        all.put("tabs", filled("\t"));
        all.put("anchors", "a: " + filled("&a "));
        all.put("tags", "a: " + filled("!x "));
        all.put("open quotes", YAML + "about: \"" + filled("\\x4"));
        return all;
    }

    private static String aliases() {
        StringBuilder text = new StringBuilder();
        for (int i = 1; i < 40; i++) {
            text.append("a%d: &a%d [*a%d, *a%d]\n".formatted(i, i, i - 1, i - 1));
        }
        return text.toString();
    }

    private static String keys() {
        StringBuilder text = new StringBuilder();
        for (int i = 0; text.length() < LARGE; i++) {
            text.append("tittle").append(i).append(": 1\n");
        }
        return text.toString();
    }

    private static String parameters() {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 2_000; i++) {
            text.append("p").append(i).append(": { in: query, type: string }, ");
        }
        return text.toString();
    }

    private static Map<String, String> statements() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("open brackets", "select " + filled("("));
        all.put("brackets in brackets", "select " + "(".repeat(LARGE / 2) + "1" + ")".repeat(LARGE / 2));
        all.put("queries in queries", "select * from " + "(select * from ".repeat(20_000) + "t" + ") x".repeat(20_000));
        all.put("cases in cases", "select " + "case when 1 then ".repeat(20_000) + "1" + " end".repeat(20_000));
        all.put("unions", "select 1 " + filled("union select 1 "));
        all.put("joins", "select 1 from t " + filled("join t on 1 "));
        all.put("columns", "select " + filled("a,") + "a");
        all.put("signs", "select " + filled("- "));
        all.put("quotes", "select '" + filled("''"));
        all.put("comments", "select 1 " + filled("/* */"));
        all.put("open comment", "select 1 /*" + filled("*"));
        all.put("binds", "select " + filled(":a,") + ":a");
        all.put("vanishing lines", "select 1 from t where 1\n" + filled("and :a = 1 -- when :a\n"));
        all.put("names", "select " + filled("x.") + "x");
        all.put("semicolons", "select 1" + filled(";"));
        all.put("with in with", filled("with a as (select 1) "));
        return all;
    }

    @Test
    void everyModuleTextIsReadOrRefused() {
        yamls().forEach((name, yaml) -> bounded(name, yaml, "select 1 as v from t where :a = 'x'"));
    }

    @Test
    void everyStatementIsReadOrRefused() {
        statements().forEach((name, sql) -> bounded(name, YAML, sql));
    }

    private static void bounded(String name, String yaml, String sql) {
        UnaryOperator<String> shown = text -> text.length() <= 200 ? text : text.substring(0, 200) + "...";
        List<Finding> findings = new ArrayList<>();
        long millis = Cost.ofThread(() -> findings.addAll(PlanFixture.compile(
                                yaml,
                                Map.of("r.sql", sql),
                                PlanFixture.describing(new Field("v", FieldType.INTEGER, false)))
                        .findings()))
                .toMillis();
        System.out.printf(
                "%-22s %6d ms  %s%n",
                name,
                millis,
                findings.isEmpty() ? "taken" : shown.apply(findings.getFirst().message()));
        assertThat(millis).as("ms for %s", name).isLessThan(5_000);
        assertThat(findings)
                .as(name)
                .allSatisfy(finding -> assertThat(finding.message()).isNotBlank());
    }
}
