package tidybridge.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Described;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.SourceText;

/** Whatever parts of a statement vanish: what is left is a statement, and the database says so. */
class StatementFormsTest {

    private static final String[] CONDITIONS = {
        "b.length_m >= :p%d",
        "n.name = :p%d",
        "b.id in (:p%d)",
        "b.berth_no not in ('x', :p%d)",
        "b.width_m between 1 and :p%d",
        "not (b.has_power = :p%d)",
        "exists (select 1 from booking k where k.berth_id = b.id and k.status = :p%d)",
        "(b.id = :p%d or b.id = 3)"
    };

    private static Source source;

    private final Random random = new Random(5);
    private int parameters;

    @BeforeAll
    static void open() {
        source = new Source(TestSettings.over(2));
    }

    @AfterAll
    static void close() {
        source.close();
    }

    @Test
    void everyFormOfManyStatementsCanBePrepared() throws Exception {
        for (int i = 0; i < 150; i++) {
            parameters = 0;
            String sql = query();
            Statement statement = Statement.scan(new SourceText("random.sql", sql), Dialect.usual());
            for (int form = 0; form < 8; form++) {
                Set<String> given = given(form);
                String rendered = new Renderer(statement)
                        .render(given::contains, name -> name.hashCode() % 2 == 0 ? -1 : random.nextInt(3))
                        .sql();
                assertThat(source.catalog().describe(rendered))
                        .as("%s%n given %s becomes%n%s", sql, given, rendered)
                        .isInstanceOf(Described.Fields.class);
            }
        }
    }

    /** None, all, and some. */
    private Set<String> given(int form) {
        Set<String> given = new HashSet<>();
        for (int i = 0; i < parameters; i++) {
            if (form == 1 || form > 1 && random.nextBoolean()) {
                given.add("p" + i);
            }
        }
        return given;
    }

    private String query() {
        StringBuilder sql = new StringBuilder("select\n  b.id");
        for (int i = random.nextInt(3); i > 0; i--) {
            sql.append(",\n  b.length_m * :p%d as x%d".formatted(parameters, parameters))
                    .append(when());
        }
        sql.append("\nfrom berth b\njoin basin n on n.id = b.basin_id\n");
        if (random.nextBoolean()) {
            sql.append("  and n.name <> :p%d".formatted(parameters))
                    .append(when())
                    .append('\n');
        }
        if (random.nextInt(5) > 0) {
            sql.append("where\n").append(conditions(1 + random.nextInt(4), 2));
        }
        if (random.nextInt(3) == 0) {
            sql.append("group by\n  b.id");
            sql.append(",\n  b.width_m + :p%d".formatted(parameters))
                    .append(when())
                    .append('\n');
            sql.append("having\n  count(*) > :p%d".formatted(parameters))
                    .append(when())
                    .append('\n');
        }
        if (random.nextBoolean()) {
            sql.append("order by\n");
            for (int i = random.nextInt(3); i > 0; i--) {
                sql.append("  b.length_m + :p%d,".formatted(parameters))
                        .append(when())
                        .append('\n');
            }
            sql.append(random.nextBoolean() ? "  b.id\n" : "  b.id + :p%d".formatted(parameters) + when() + "\n");
        }
        if (random.nextInt(3) == 0) {
            sql.append("limit :p%d".formatted(parameters)).append(when()).append('\n');
        }
        return sql.toString();
    }

    /** Conditions with the joining word at the start or the end of the line, some of them in parentheses. */
    private String conditions(int count, int depth) {
        List<String> lines = new ArrayList<>();
        boolean leading = random.nextBoolean();
        for (int i = 0; i < count; i++) {
            String join = random.nextInt(4) == 0 ? "or " : "and ";
            boolean last = i == count - 1;
            String before = leading && i > 0 ? join : "";
            String after = !leading && !last ? " " + join.strip() : "";
            if (depth > 0 && random.nextInt(4) == 0) {
                String not = random.nextInt(3) == 0 ? "not " : "";
                lines.add("  " + before + not + "(\n" + conditions(1 + random.nextInt(2), depth - 1) + "  )" + after);
            } else {
                String condition = CONDITIONS[random.nextInt(CONDITIONS.length)].formatted(parameters);
                lines.add("  " + before + condition + after + (random.nextInt(4) == 0 ? always() : when()));
            }
        }
        return String.join("\n", lines) + "\n";
    }

    private String when() {
        return "   -- when :p" + parameters++;
    }

    private String always() {
        parameters++;
        return "";
    }
}
