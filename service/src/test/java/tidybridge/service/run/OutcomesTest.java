package tidybridge.service.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.ZonedDateTime;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.answer.TextRow;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.RowReply.TagPlan;
import tidybridge.core.problem.Problem;

/** What becomes of a run, each decision by itself. */
class OutcomesTest {

    private static final ZonedDateTime NOON = ZonedDateTime.parse("2031-05-01T12:00:00Z");

    @ParameterizedTest
    @CsvSource({
        "a,   , a, true",
        "a,   , b, false",
        "a,   ,  , false",
        " , a , a, false",
        " , a , b, true",
        " , a ,  , true",
        "a, b , a, true"
    })
    void tagsSayWhichStateIsMeant(
            @Nullable String match, @Nullable String noneMatch, @Nullable String there, boolean fits) {
        StateCondition condition = new StateCondition(tags(match), tags(noneMatch), null, true);
        assertThat(condition.fits(there != null, there, null)).isEqualTo(fits);
    }

    private static StateCondition.@Nullable Tags tags(@Nullable String one) {
        return one == null ? null : (found, tag) -> one.equals(tag);
    }

    @Test
    void aTimeSaysThatNothingWasChangedSince() {
        StateCondition since = new StateCondition(null, null, NOON, true);
        assertThat(since.fits(true, null, NOON)).isTrue();
        assertThat(since.fits(true, null, NOON.plusSeconds(1))).isFalse();
        assertThat(since.fits(true, null, null)).as("a row without a time").isFalse();
        assertThat(since.fits(false, null, null)).isTrue();
        StateCondition both = new StateCondition(tags("a"), null, NOON, true);
        assertThat(both.fits(true, "a", NOON.plusSeconds(1)))
                .as("a tag outweighs a time")
                .isTrue();
        assertThat(StateCondition.NONE.compares()).isFalse();
        assertThat(since.compares()).isTrue();
    }

    @Test
    void tagsDifferWhereWhatIsShownDiffers() {
        TagPlan plan = new TagPlan(0, "f00");
        assertThat(EntityTags.of(plan, "17")).isEqualTo("\"17-f00\"");
        assertThat(EntityTags.of(plan, (String) null)).isNull();
        assertThat(EntityTags.of(plan, "a \"quoted\" version")).matches("\"[0-9a-f]{24}-f00\"");
        assertThat(EntityTags.of(plan, "x".repeat(50)))
                .isNotEqualTo(EntityTags.of(plan, "x".repeat(51)))
                .matches("\"[0-9a-f]{24}-f00\"");
        byte[] row = "{\"id\":1}......".getBytes(StandardCharsets.UTF_8);
        assertThat(EntityTags.of(plan, row, 8))
                .isEqualTo(EntityTags.of(plan, "{\"id\":1}".getBytes(StandardCharsets.UTF_8), 8))
                .isNotEqualTo(EntityTags.of(new TagPlan(-1, "f01"), row, 8));
    }

    @ParameterizedTest
    @CsvSource({
        "2031-05-01 12:00:00,     2031-05-01T12:00:00Z",
        "2031-05-01 12:00:00.999, 2031-05-01T12:00:00Z",
        "0000-00-00 00:00:00,",
        "noon,",
        ","
    })
    void timesOfTheDatabaseAreWholeSeconds(@Nullable String text, @Nullable ZonedDateTime expected) {
        assertThat(DatabaseTimes.read(text))
                .satisfies(time -> assertThat(time == null ? null : time.toInstant())
                        .isEqualTo(expected == null ? null : expected.toInstant()));
    }

    private static final String YAML = """
            module: crates
            version: 1.0.0
            title: Crates
            source: waterways
            public: true
            routes:
              /crates:
                post:
                  about: Put one down
                  steps:
                    made: { sql: a.sql }
                    shown: { sql: b.sql, with: { id: made.key } }
                  answered-by: shown
                  answer: row
                  status: 201
                  location: /crates/{label}
                  reply: { status: state, message: said, headers: { X-Shed: shed } }
                  parameters:
                    label: { in: body, type: string, required: true, example: A1 }
            """;

    private static ChangePlan plan() {
        PlanFixture.Result result = PlanFixture.compile(
                YAML,
                Map.of("a.sql", "insert into crate (label) values (:label)", "b.sql", "select * from c where id = :id"),
                PlanFixture.describing(
                        new Field("label", FieldType.STRING, false),
                        new Field("state", FieldType.INTEGER, true),
                        new Field("said", FieldType.STRING, true),
                        new Field("shed", FieldType.STRING, true)));
        assertThat(result.plan()).as("%s", result.findings()).isPresent();
        return result.change();
    }

    private static ChangeAnswer answered(@Nullable String... row) {
        ChangePlan plan = plan();
        MaskKey key = new MaskKey(new byte[] {1});
        RowWriters writers = new RowWriters(plan.fields(), key);
        ChangeAnswer answer =
                new ChangeAnswer(plan, writers.forStrangers(), fields -> new RowWriters(fields, key).forStrangers());
        answer.row(new TextRow(row), new Object[plan.sequence().values()]);
        return answer;
    }

    @Test
    void theRowSaysWhereItIsAndWhatStandsBesideIt() {
        HeldAnswer answer = answered("A 1/2", null, null, "North").answer();
        assertThat(answer.status()).isEqualTo(201);
        assertThat(answer.location()).isEqualTo("/crates/A%201%2F2");
        assertThat(answer.fields()).containsExactly(Map.entry("X-Shed", "North"));
        assertThat(new String(answer.body(), StandardCharsets.UTF_8)).contains("\"label\":\"A 1/2\"");
        assertThat(answered("A1", null, null, null).answer().fields()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"200, 200", "204, 204"})
    void theRowMayChooseASuccess(String said, int status) {
        ChangeAnswer answer = answered("A1", said, "ignored", null);
        assertThat(answer.refusal()).isNull();
        assertThat(answer.answer().status()).isEqualTo(status);
    }

    @ParameterizedTest
    @CsvSource({
        "409, 409, The shed is full.",
        "418, 418, The shed is full.",
        "399, 500, The shed is full.",
        "7, 500, The shed is full."
    })
    void theRowMayRefuseInItsOwnWords(String said, int status, String message) {
        Problem refusal = answered("A1", said, message, null).refusal();
        assertThat(refusal).isNotNull();
        assertThat(refusal.status()).isEqualTo(status);
        assertThat(refusal.detail()).isEqualTo(message);
        assertThat(refusal.errors()).isEmpty();
    }
}
