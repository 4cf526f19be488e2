package tidybridge.core.compare;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.ModulePlan;

/**
 * A module that has one of everything, and a catalog that answers by the names of columns: {@code price:decimal?} in a statement is a
 * decimal that may be null.
 */
final class Quay {

    private static final Pattern SELECT = Pattern.compile("select (.*?) from", Pattern.DOTALL);

    static final String TEXT = """
            module: quay
            version: 1.0.0
            title: Quays
            about: Where vessels lie.
            source: waterways
            public: true
            accept: { open-to-everybody: a test, change-open: a test }
            page: { limit: 25, most: 200 }
            routes:
              /berths:
                get:
                  about: Berths
                  sql: berths.sql
                  answer: rows
                  order: [id]
                  sort: [name]
                  filter: [length: [gte, lte], name: [eq, in]]
                  total: [exact, estimate]
                  chosen-fields: true
                  formats: [csv, ndjson]
                  tag: representation
                  fresh: 30s
                  parameters:
                    basin: { in: query, type: string, maxLength: 60, example: heron, enum: [heron, otter] }
                    depth: { in: query, type: integer, minimum: 1, maximum: 100, default: 10 }
                    ids:   { in: query, type: array, items: { type: integer }, maxItems: 5, example: 1 }
                post:
                  about: Build
                  sql: build.sql
                  answer: row
                  location: /berths/{key}
                  conditions: { berth_name: { status: 409, message: The name is taken. } }
                  parameters:
                    name:  { in: body, type: string, required: true, maxLength: 60, example: a }
                    width: { in: body, type: number, nullable: true, multipleOf: 0.5, example: 1 }
              /berths/many:
                post:
                  about: Build many
                  sql: build.sql
                  answer: nothing
                  batch: { most: 50, outcome: together }
                  parameters:
                    name:  { in: body, type: string, required: true, maxLength: 60, example: a }
                    width: { in: body, type: number, example: 1 }
              /berths/{id}:
                get:
                  about: A berth
                  sql: berth.sql
                  answer: row
                  tag: representation
                  parameters: { id: { in: path, type: integer, minimum: 1, example: 1 } }
                patch:
                  about: Change
                  sql: change.sql
                  answer: nothing
                  parameters:
                    id:   { in: path, type: integer, minimum: 1, example: 1 }
                    name: { in: body, type: string, maxLength: 60, example: a }
                delete:
                  about: Break up
                  sql: clear.sql
                  answer: row
                  changes: { most: 5 }
                  preview: true
                  parameters: { id: { in: path, type: integer, minimum: 1, example: 1 } }
              /plans/{id}:
                get:
                  about: The plan
                  sql: plan.sql
                  answer: file
                  file: { content: content, type: image/png }
                  parameters: { id: { in: path, type: integer, example: 1 } }
            """;

    static final Map<String, String> STATEMENTS = Map.of(
            "berths.sql",
            "select id:integer, name:string?, length:decimal, kind:string from berth where depth > :depth\n"
                    + "and basin = :basin -- when :basin\nand id in (:ids) -- when :ids\n",
            "build.sql",
            "insert into berth (name, width) values (:name, :width)",
            "berth.sql",
            "select id:integer, name:string?, length:decimal, owner:string from berth where id = :id",
            "change.sql",
            "update berth set\nname = :name -- when :name\nwhere id = :id",
            "clear.sql",
            "delete from berth where id = :id",
            "plan.sql",
            "select content:binary from plan where id = :id");

    private Quay() {}

    /** A text and its statements. */
    record Text(String yaml, Map<String, String> statements) {

        /** The same with something in place of something else, which must be there once. */
        Text with(String from, String to) {
            Map<String, String> changed = new HashMap<>(statements);
            int found = count(yaml, from);
            for (Map.Entry<String, String> statement : changed.entrySet()) {
                found += count(statement.getValue(), from);
                statement.setValue(statement.getValue().replace(from, to));
            }
            if (found == 0) {
                throw new AssertionError("'" + from + "' is nowhere in the text");
            }
            return new Text(yaml.replace(from, to), changed);
        }

        private static int count(String text, String part) {
            return text.split(Pattern.quote(part), -1).length - 1;
        }

        ModulePlan plan() {
            Map<String, String> plain = new HashMap<>();
            Map<String, List<Field>> fields = new HashMap<>();
            statements.forEach((file, sql) -> {
                plain.put(file, names(sql));
                selected(sql).ifPresent(select -> fields.put(names(select), fields(select)));
            });
            Catalog catalog =
                    sql -> new Described.Fields(selected(sql).map(fields::get).orElse(List.of()));
            PlanFixture.Result result = PlanFixture.compile(yaml, plain, catalog);
            return result.plan()
                    .orElseThrow(() -> new AssertionError(
                            result.findings().stream().filter(Finding::isError).toList()));
        }

        Contract contract() {
            return PlanFixture.promised(plan());
        }
    }

    private static Optional<String> selected(String sql) {
        Matcher select = SELECT.matcher(sql);
        return select.find() ? Optional.of(select.group(1)) : Optional.empty();
    }

    /** A statement as a database gets it. */
    private static String names(String sql) {
        return sql.replaceAll("(?<=\\w):(integer|string|decimal|binary|date)\\??", "");
    }

    private static List<Field> fields(String select) {
        return Arrays.stream(select.split(", "))
                .map(column -> column.split("[:?]"))
                .map(parts -> new Field(
                        parts[0],
                        FieldType.valueOf(parts[1].toUpperCase(Locale.ROOT)),
                        select.contains(parts[0] + ":" + parts[1] + "?")))
                .toList();
    }

    static Text text() {
        return new Text(TEXT, STATEMENTS);
    }
}
