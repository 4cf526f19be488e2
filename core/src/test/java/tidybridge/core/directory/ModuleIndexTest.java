package tidybridge.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.Deprecation;

class ModuleIndexTest {

    private static final Contract QUAYS = Contract.of(PlanFixture.compile(
                    """
            module: quays
            version: 1.0.0
            title: Quays and cranes
            about: Where cargo is unloaded.
            owner: Harbour office
            tags: [cargo, "heavy goods"]
            source: waterways
            public: true
            accept: { open-to-everybody: a test }
            routes:
              /cranes:
                get:
                  about: Cranes that lift a load
                  sql: cranes.sql
                  answer: rows
                  order: [f_integer]
                  fields: { f_string: { about: What the crane is called } }
                  parameters: { tonnes: { in: query, type: number, about: The weight of the load } }
              /cranes/{craneId}:
                get:
                  about: One crane
                  sql: crane.sql
                  answer: row
                  parameters: { craneId: { in: path, type: integer, example: 1 } }
            """,
                    Map.of(
                            "cranes.sql",
                            "select f_integer, f_string from crane where lifts >= :tonnes -- when :tonnes",
                            "crane.sql",
                            "select f_integer, f_string from crane where id = :craneId"),
                    PlanFixture.describing(
                            new Field("f_integer", FieldType.INTEGER, false),
                            new Field("f_string", FieldType.STRING, false)))
            .plan()
            .orElseThrow());

    private static final ModuleIndex INDEX = ModuleIndex.of(QUAYS);

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            CARGO                |
            heavy goods          |
            harbour unloaded     |
            one crane            | GET /cranes/{craneId}, GET /cranes, GET /cranes f_string, GET /cranes/{craneId} craneId
            load tonnes          | GET /cranes tonnes, GET /cranes
            f_integer            | GET /cranes f_integer, GET /cranes/{craneId} f_integer
            harbour weight       | GET /cranes tonnes
            """)
    void everyWordIsLookedForInTitlesRoutesFieldsAndDescriptions(String question, String places) {
        Found found = INDEX.find(SearchWords.of(question)).orElseThrow();
        assertThat(found.hits().stream()
                        .map(hit -> hit.label() + (hit.name() == null ? "" : " " + hit.name()))
                        .collect(Collectors.joining(", ")))
                .isEqualTo(places == null ? "" : places);
    }

    @Test
    void oneWordThatIsNowhereIsEnoughToLeaveAModuleOut() {
        assertThat(INDEX.find(SearchWords.of("cranes barges"))).isEmpty();
        assertThat(INDEX.find(SearchWords.of(" "))).isPresent();
    }

    @Test
    void noQuestionCostsMoreThanItsBound() {
        String endless = IntStream.range(0, 100_000).mapToObj(i -> "w" + i).collect(Collectors.joining(" "));
        assertThat(SearchWords.of(endless).words()).hasSize(SearchWords.MOST);
        assertThat(SearchWords.of("x".repeat(100_000)).words().getFirst()).hasSize(SearchWords.LONGEST);
        assertThat(INDEX.places(SearchWords.of("crane"), 2)).hasSize(2);
    }

    @Test
    void aModuleIsNewForAMonthAndTellsItsEnd() {
        Instant now = Instant.parse("2031-05-01T12:00:00Z");
        Instant yesterday = now.minus(Duration.ofDays(1));
        LocalDate tomorrow = LocalDate.parse("2031-05-02");
        assertThat(List.of(
                        ModuleState.of(null, yesterday, now),
                        ModuleState.of(null, now.minus(Duration.ofDays(31)), now),
                        ModuleState.of(null, null, now),
                        ModuleState.of(Deprecation.UNDATED, yesterday, now),
                        ModuleState.of(new Deprecation(null, tomorrow, null), yesterday, now),
                        ModuleState.of(new Deprecation(tomorrow, tomorrow.plusYears(1), null), null, now)))
                .containsExactly(
                        ModuleState.NEW,
                        ModuleState.CURRENT,
                        ModuleState.CURRENT,
                        ModuleState.DEPRECATED,
                        ModuleState.ENDING,
                        ModuleState.CURRENT);
    }
}
