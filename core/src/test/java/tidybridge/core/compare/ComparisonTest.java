package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.core.compare.DifferenceKind.*;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

class ComparisonTest {

    private static final Contract QUAY = Quay.text().contract();

    /**
     * One edit of the text, and what it means in that direction and in the other.
     *
     * @param back null where the other direction is not told
     */
    record Edit(String from, String to, DifferenceKind there, DifferenceKind back) {}

    private static Edit edit(String from, String to, DifferenceKind there, DifferenceKind back) {
        return new Edit(from, to, there, back);
    }

    private static final String DELETE = """
                delete:
                  about: Break up
                  sql: clear.sql
                  answer: row
                  changes: { most: 5 }
                  preview: true
                  parameters: { id: { in: path, type: integer, minimum: 1, example: 1 } }
            """;

    static Stream<Edit> edits() {
        return Stream.of(
                edit(DELETE, "", OPERATION_REMOVED, OPERATION_ADDED),
                edit("about: Berths\n", "about: Berths\n      id: listBerths\n", OPERATION_RENAMED, OPERATION_RENAMED),
                edit(
                        "  /plans/{id}:\n    get:\n      about: The plan\n      sql: plan.sql\n      answer: file\n      file: { content: content, type: image/png }\n      parameters: { id:",
                        "  /plans/{plan}:\n    get:\n      about: The plan\n      sql: plan2.sql\n      answer: file\n      file: { content: content, type: image/png }\n      parameters: { plan:",
                        PLACEHOLDER_RENAMED,
                        PLACEHOLDER_RENAMED),
                edit("maximum: 100, default: 10", "maximum: 50, default: 10", PARAMETER_NARROWED, PARAMETER_WIDENED),
                edit(
                        "minimum: 1, maximum: 100",
                        "exclusiveMinimum: 1, maximum: 100",
                        PARAMETER_NARROWED,
                        PARAMETER_NARROWED),
                edit("[heron, otter]", "[heron]", PARAMETER_NARROWED, PARAMETER_WIDENED),
                edit(", enum: [heron, otter]", "", PARAMETER_WIDENED, PARAMETER_NARROWED),
                edit("enum: [heron, otter]", "pattern: '^[a-z]+$'", PARAMETER_NARROWED, PARAMETER_NARROWED),
                edit("maxItems: 5", "maxItems: 3", PARAMETER_NARROWED, PARAMETER_WIDENED),
                edit("maxItems: 5", "maxItems: 5, uniqueItems: true", PARAMETER_NARROWED, PARAMETER_WIDENED),
                edit("multipleOf: 0.5", "multipleOf: 0.25", PARAMETER_WIDENED, PARAMETER_NARROWED),
                edit("nullable: true, multipleOf", "multipleOf", PARAMETER_NARROWED, PARAMETER_WIDENED),
                edit("items: { type: integer }", "items: { type: number }", PARAMETER_WIDENED, PARAMETER_RETYPED),
                edit(
                        "basin: { in: query, type: string, maxLength: 60, example: heron, enum: [heron, otter] }",
                        "basin: { in: query, type: date }",
                        PARAMETER_RETYPED,
                        PARAMETER_RETYPED),
                edit("default: 10", "default: 20", DEFAULT_CHANGED, DEFAULT_CHANGED),
                edit(", default: 10", ", required: true", PARAMETER_REQUIRED, PARAMETER_OPTIONAL),
                edit(
                        "name: { in: body, type: string, maxLength: 60, example: a }",
                        "name: { in: form, type: string, maxLength: 60, example: a }",
                        BODY_CHANGED,
                        BODY_CHANGED),
                edit("most: 50,", "most: 40,", CEILING_LOWERED, CEILING_RAISED),
                edit("      batch: { most: 50, outcome: together }\n", "", BODY_CHANGED, BODY_CHANGED),
                edit("outcome: together", "outcome: separate", BODY_CHANGED, BODY_CHANGED),
                edit("length: [gte, lte]", "length: [gte]", FILTER_REMOVED, FILTER_ADDED),
                edit("sort: [name]", "sort: [name, length]", SORT_ADDED, SORT_REMOVED),
                edit("total: [exact, estimate]", "total: [exact]", OFFER_REMOVED, OFFER_ADDED),
                edit("      chosen-fields: true\n", "", OFFER_REMOVED, OFFER_ADDED),
                edit("      preview: true\n", "", OFFER_REMOVED, OFFER_ADDED),
                edit("most: 200 }", "most: 200, all: true }", OFFER_ADDED, OFFER_REMOVED),
                edit("most: 200 }", "most: 200, jumps: true }", OFFER_ADDED, OFFER_REMOVED),
                edit("order: [id]", "order: [id desc]", ORDER_CHANGED, ORDER_CHANGED),
                edit("limit: 25", "limit: 50", PAGE_SIZE_CHANGED, PAGE_SIZE_CHANGED),
                edit("most: 200", "most: 100", CEILING_LOWERED, CEILING_RAISED),
                edit(
                        "sql: berth.sql\n      answer: row",
                        "sql: berth.sql\n      answer: nothing",
                        ANSWER_CHANGED,
                        ANSWER_CHANGED),
                edit("answer: row\n      location: /berths/{key}\n", "answer: row\n", STATUS_CHANGED, STATUS_CHANGED),
                edit(", kind:string from", " from", FIELD_REMOVED, FIELD_ADDED),
                edit("owner:string", "holder:string", FIELD_RENAMED, FIELD_RENAMED),
                edit("length:decimal, owner", "length:string, owner", FIELD_RETYPED, FIELD_RETYPED),
                edit("owner:string", "owner:string?", FIELD_NULLABLE, FIELD_NEVER_NULL),
                edit(
                        "sql: berth.sql\n",
                        "sql: berth.sql\n      fields: { owner: { mask: whole } }\n",
                        FIELD_MASKED,
                        FIELD_UNMASKED),
                edit(
                        "name:string?, length:decimal, kind",
                        "length:decimal, name:string?, kind",
                        COLUMNS_MOVED,
                        COLUMNS_MOVED),
                edit(
                        "name:string?, length:decimal, owner",
                        "length:decimal, name:string?, owner",
                        FIELDS_MOVED,
                        FIELDS_MOVED),
                edit("formats: [csv, ndjson]", "formats: [csv]", MEDIA_TYPE_REMOVED, MEDIA_TYPE_ADDED),
                edit("type: image/png", "type: application/pdf", MEDIA_TYPE_REMOVED, MEDIA_TYPE_REMOVED),
                edit("      tag: representation\n      fresh", "      fresh", HEADER_REMOVED, HEADER_ADDED),
                edit("fresh: 30s", "fresh: 10s", FRESHNESS_CHANGED, FRESHNESS_CHANGED),
                edit(
                        "      conditions: { berth_name: { status: 409, message: The name is taken. } }\n",
                        "",
                        PROBLEM_REMOVED,
                        PROBLEM_ADDED),
                edit("status: 409", "status: 422", PROBLEM_MOVED, PROBLEM_MOVED),
                edit("The name is taken.", "Another berth has it.", WORDS_CHANGED, WORDS_CHANGED),
                edit(
                        "about: Change\n",
                        "about: Change\n      precondition: required\n",
                        PRECONDITION_REQUIRED,
                        PRECONDITION_OPTIONAL),
                edit(
                        "about: Build\n",
                        "about: Build\n      idempotency-key: required\n",
                        PRECONDITION_REQUIRED,
                        PRECONDITION_OPTIONAL),
                edit(
                        "answer: row\n      tag: representation\n",
                        "answer: row\n",
                        PRECONDITION_IGNORED,
                        PRECONDITION_OFFERED),
                edit("about: Berths\n", "about: Berths\n      needs: quay.read\n", PRIVILEGE_ADDED, PRIVILEGE_RELAXED),
                edit(
                        "source: waterways\n",
                        "source: waterways\naddresses: [10.0.0.0/8]\n",
                        ADMISSION_NARROWED,
                        ADMISSION_WIDENED),
                edit(
                        "source: waterways\n",
                        "source: waterways\ntls: required\n",
                        ADMISSION_NARROWED,
                        ADMISSION_WIDENED),
                edit(
                        "source: waterways\n",
                        "source: waterways\ncross-origin: { origins: [https://quays.marrowby.example] }\n",
                        ADMISSION_WIDENED,
                        ADMISSION_NARROWED),
                edit(
                        "source: waterways\n",
                        "source: waterways\nquota: { calls: 100, per: 1m }\n",
                        QUOTA_LOWERED,
                        QUOTA_RAISED),
                edit(
                        "about: Berths\n",
                        "about: Berths\n      deprecated: 2031-12-31\n",
                        DEPRECATION_CHANGED,
                        DEPRECATION_CHANGED),
                edit("title: Quays", "title: Piers", WORDS_CHANGED, WORDS_CHANGED),
                edit("title: Quays", "title: Quays\nlisted: everybody", LISTING_CHANGED, LISTING_CHANGED),
                edit("title: Quays", "title: Quays\nowner: Harbour office", LISTING_CHANGED, LISTING_CHANGED),
                edit(
                        "sql: build.sql\n      answer: nothing\n      batch: { most: 50, outcome: together }\n",
                        "sql: look.sql\n      answer: nothing\n",
                        CHANGES_NOTHING,
                        CHANGES_DATA),
                edit(
                        "sql: build.sql\n      answer: nothing\n      batch: { most: 50, outcome: together }\n      parameters:\n        name:  { in: body, type: string, required: true, maxLength: 60, example: a }\n        width: { in: body, type: number, example: 1 }\n",
                        "sql: many.sql\n      answer: nothing\n      batch: { most: 50, outcome: together }\n      parameters:\n        name:  { in: body, type: string, required: true, maxLength: 60, example: a }\n",
                        PARAMETER_REMOVED,
                        PARAMETER_ADDED));
    }

    private static Set<DifferenceKind> kinds(Contract earlier, Contract later) {
        return Comparison.of(earlier, later).differences().stream()
                .map(Difference::kind)
                .collect(Collectors.toSet());
    }

    /** Some edits need a statement of another file. */
    static Map<String, String> statements() {
        Map<String, String> more = new HashMap<>(Quay.STATEMENTS);
        more.put("plan2.sql", "select content:binary from plan where id = :plan");
        more.put("look.sql", "select id:integer from berth where name = :name and width = :width");
        more.put("many.sql", "insert into berth (name) values (:name)");
        return more;
    }

    private static Quay.Text edited(Edit edit) {
        return new Quay.Text(Quay.TEXT, statements()).with(edit.from(), edit.to());
    }

    @ParameterizedTest
    @MethodSource("edits")
    void anEditIsToldInBothDirections(Edit edit) {
        Contract changed = edited(edit).contract();
        assertThat(kinds(QUAY, changed)).contains(edit.there());
        assertThat(kinds(changed, QUAY)).contains(edit.back());
    }

    @Test
    void nothingDiffersFromItself() {
        assertThat(Comparison.of(QUAY, Quay.text().contract()).differences()).isEmpty();
        assertThat(Comparison.of(QUAY, QUAY).effect()).isEmpty();
    }

    @Test
    void aParameterThatMustBeSentIsNotTheSameAsOneThatMay() {
        Quay.Text text = Quay.text()
                .with(
                        "        ids:   {",
                        "        near:  { in: query, type: string, example: a, required: true }\n        ids:   {")
                .with("where depth > :depth", "where depth > :depth and near = :near");
        assertThat(kinds(QUAY, text.contract())).containsExactly(PARAMETER_ADDED_REQUIRED);
        Quay.Text optional = text.with("example: a, required: true", "example: a");
        assertThat(kinds(QUAY, optional.contract())).containsExactly(PARAMETER_ADDED);
        assertThat(kinds(optional.contract(), QUAY)).containsExactly(PARAMETER_REMOVED);
    }

    @Test
    void anEndThatComesEarlierThanAnnouncedBreaksAPromise() {
        Contract announced = Quay.text()
                .with("about: Berths\n", "about: Berths\n      deprecated: 2031-12-31\n")
                .contract();
        Contract earlier = Quay.text()
                .with("about: Berths\n", "about: Berths\n      deprecated: 2031-06-30\n")
                .contract();
        assertThat(kinds(announced, earlier)).containsExactly(END_EARLIER);
        assertThat(kinds(earlier, announced)).containsExactly(DEPRECATION_CHANGED);
    }

    @Test
    void valuesThatAFieldMayHaveAreCompared() {
        Contract some = withMembers(List.of("box", "quay"));
        assertThat(kinds(some, withMembers(List.of("box", "quay", "buoy")))).containsExactly(FIELD_VALUES_ADDED);
        assertThat(kinds(some, withMembers(List.of("box")))).containsExactly(FIELD_VALUES_REMOVED);
        assertThat(kinds(some, QUAY)).containsExactly(FIELD_VALUES_ADDED);
        assertThat(kinds(QUAY, some)).containsExactly(FIELD_VALUES_REMOVED);
    }

    private static Contract withMembers(List<String> members) {
        return new Contract(
                QUAY.form(),
                QUAY.module(),
                QUAY.version(),
                QUAY.title(),
                QUAY.about(),
                null,
                QUAY.admission(),
                null,
                QUAY.operations().stream()
                        .map(operation -> withMembers(operation, members))
                        .toList());
    }

    private static OperationTerms withMembers(OperationTerms one, List<String> members) {
        AnswerTerms answer = one.answer();
        List<FieldTerms> fields = answer.fields().stream()
                .map(field -> field.name().equals("kind")
                        ? new FieldTerms(
                                field.path(),
                                field.type(),
                                field.nullable(),
                                null,
                                null,
                                false,
                                null,
                                null,
                                members,
                                null)
                        : field)
                .toList();
        return new OperationTerms(
                one.method(),
                one.path(),
                one.id(),
                one.about(),
                one.needs(),
                one.quota(),
                one.deprecated(),
                one.inputs(),
                one.body(),
                new AnswerTerms(
                        answer.kind(),
                        answer.status(),
                        fields,
                        answer.choices(),
                        answer.formats(),
                        answer.headers(),
                        answer.tag(),
                        answer.modified(),
                        answer.fresh(),
                        answer.mediaType(),
                        answer.results()),
                one.page(),
                one.change(),
                one.refusals(),
                one.assistants());
    }

    @Test
    void aStatementThatIsWrittenAnewIsNoDifferenceToCallers() {
        ModuleText earlier = new ModuleText("quay", Map.of("module.yaml", "a", "berths.sql", "select 1"));
        ModuleText later = new ModuleText("quay", Map.of("module.yaml", "a", "berths.sql", "select 2"));
        Comparison comparison = Comparison.of(QUAY, QUAY).withTexts(earlier, later);
        assertThat(comparison.differences()).extracting(Difference::kind).containsExactly(TEXT_CHANGED);
        assertThat(comparison.differences().getFirst().words()).contains("berths.sql");
        assertThat(comparison.nextAfter(new Version(1, 4, 2))).hasToString("1.4.3");
    }

    @Test
    void theGravestComesFirstAndDecidesTheVersion() {
        Contract changed = Quay.text()
                .with("sort: [name]", "sort: [name, length]")
                .with("title: Quays", "title: Piers")
                .with("limit: 25", "limit: 50")
                .contract();
        Comparison comparison = Comparison.of(QUAY, changed);
        assertThat(comparison.differences())
                .extracting(Difference::effect)
                .containsExactly(Effect.BREAKING, Effect.SAFE, Effect.INTERNAL);
        assertThat(comparison.nextAfter(new Version(1, 4, 2))).hasToString("2.0.0");
        assertThat(Comparison.of(
                                QUAY,
                                Quay.text()
                                        .with("sort: [name]", "sort: [name, length]")
                                        .contract())
                        .nextAfter(new Version(1, 4, 2)))
                .hasToString("1.5.0");
    }

    @Test
    void aNewColumnAtTheEndOfATableMovesNone() {
        Contract atTheEnd = Quay.text()
                .with("kind:string from", "kind:string, hue:string from")
                .contract();
        Contract between = Quay.text()
                .with("length:decimal, kind", "hue:string, length:decimal, kind")
                .contract();
        assertThat(kinds(QUAY, atTheEnd)).containsExactly(FIELD_ADDED);
        assertThat(kinds(QUAY, between)).containsExactlyInAnyOrder(FIELD_ADDED, COLUMNS_MOVED);
    }

    private static final Pattern RULE =
            Pattern.compile("^\\| `([a-z-]+)` \\| (\\w+) \\| .+ \\| .+ \\|$", Pattern.MULTILINE);

    @Test
    void everyRuleIsDocumentedWithItsEffectAndAnExample() throws IOException {
        Matcher rules = RULE.matcher(Files.readString(Path.of("../docs/compatibility.md")));
        Map<String, String> documented =
                rules.results().collect(Collectors.toMap(rule -> rule.group(1), rule -> rule.group(2)));
        Map<String, String> known = Stream.of(DifferenceKind.values())
                .collect(Collectors.toMap(
                        DifferenceKind::label, kind -> kind.effect().label()));
        assertThat(documented).isEqualTo(known);
    }

    /** Those that the module of these tests cannot show are shown by a test of their own. */
    private static final Set<DifferenceKind> ELSEWHERE =
            Set.of(PARAMETER_ADDED_REQUIRED, END_EARLIER, FIELD_VALUES_ADDED, FIELD_VALUES_REMOVED, TEXT_CHANGED);

    @ParameterizedTest
    @EnumSource(DifferenceKind.class)
    void everyRuleIsShownByAnEdit(DifferenceKind kind) {
        boolean shown = edits().anyMatch(edit -> edit.there() == kind || edit.back() == kind);
        assertThat(shown).isNotEqualTo(ELSEWHERE.contains(kind));
    }
}
