package tidybridge.core.bind;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.In;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.problem.InputError;
import tidybridge.core.text.Place;

class BinderTest {

    private static final List<ParameterDefinition> PARAMETERS = List.of(
            parameter("berthId", In.PATH, ParameterType.INTEGER, true, null),
            parameter("from", In.QUERY, ParameterType.DATE, true, null),
            parameter("power", In.QUERY, ParameterType.BOOLEAN, false, "true"),
            parameter("name", In.QUERY, ParameterType.STRING, false, null),
            parameter("quay", In.HEADER, ParameterType.STRING, false, null));

    private static ParameterDefinition parameter(
            String name, In in, ParameterType type, boolean required, @Nullable String defaultText) {
        return new ParameterDefinition(
                name,
                name,
                Place.of("t"),
                in,
                type,
                true,
                required,
                false,
                null,
                defaultText,
                "2031-05-01",
                Constraints.NONE,
                null,
                null);
    }

    /** Names of an author's own may look like conditions, or like the beginning of one. */
    @ParameterizedTest
    @ValueSource(strings = {"a[", "[", "[]", "ids[]", "a[x]", "]", "a[]["})
    void bracketsInNamesAreShownAsTheyAre(String name) throws Exception {
        Binder binder = new Binder(
                List.of(parameter(name, In.QUERY, ParameterType.STRING, false, null)), List.of(), Askable.NOTHING);
        BadInput bad = catchThrowableOfType(BadInput.class, () -> binder.bind(RawRequest.ofQuery("other=1", "17")));
        assertThat(bad.errors().getFirst().detail()).endsWith("Known here: " + name + ".");
    }

    private static Bound bind(@Nullable String query) throws Exception {
        return bind(RawRequest.ofQuery(query, "17"));
    }

    private static Bound bind(RawRequest request) throws Exception {
        return new Binder(
                        PARAMETERS,
                        List.of("berthId"),
                        Askable.pages(new PageRule(25, 200, 0, Duration.ofMinutes(10), false)))
                .bind(request);
    }

    private static List<String> errors(RawRequest request) {
        BadInput bad = catchThrowableOfType(BadInput.class, () -> bind(request));
        return bad.errors().stream().map(InputError::detail).toList();
    }

    private static List<String> errors(String query) {
        return errors(RawRequest.ofQuery(query, "17"));
    }

    @Test
    void valuesHaveTheirTypesAndDefaults() throws Exception {
        Bound bound = bind(RawRequest.ofQuery("from=2031-05-01&name=Cooper%27s+Reach", "17")
                .with("quay", "north"));
        assertThat(bound.values()).containsExactly(17L, LocalDate.of(2031, 5, 1), true, "Cooper's Reach", "north");
        assertThat(bound.asked().limit()).isEqualTo(25);
        assertThat(bound.asked().start()).isEqualTo(PageStart.BEGINNING);
    }

    @Test
    void anEmptyTextIsAValueAndAbsentIsNot() throws Exception {
        assertThat(bind("from=2031-05-01&name=").values()[3]).isEqualTo("");
        assertThat(bind("from=2031-05-01").values()[3]).isNull();
    }

    @Test
    void pagesAreAskedForByLimitAndAfter() throws Exception {
        Bound bound = bind("from=2031-05-01&limit=200&after=abc");
        assertThat(bound.asked().limit()).isEqualTo(200);
        assertThat(bound.asked().start()).isEqualTo(new PageStart.After("abc"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "0", "01", "-1", "+1", "1.0", "201", "1234567890", "99999999999999999999", "x", "１"})
    void aLimitIsAWholeNumberUpToTheMost(String limit) {
        assertThat(errors("from=2031-05-01&limit=" + limit))
                .containsExactly("'limit' must be a whole number from 1 to 200.");
    }

    @Test
    void allMistakesAreReportedAtOnce() {
        assertThat(errors(RawRequest.ofQuery("form=1&power=yes&limit=201", "x")))
                .containsExactly(
                        "'berthId' must be a whole number of at most 64 bits, such as 12.",
                        "'form' is not known here. Did you mean 'from'? Known here: from, power, name, limit, after.",
                        "'power' must be true or false.",
                        "'limit' must be a whole number from 1 to 200.",
                        "'from' is required; for example 2031-05-01.");
    }

    @Test
    void valuesNeverStandInMessages() {
        assertThat(errors(RawRequest.ofQuery("from=sesame&power=sesame&limit=sesame&from=sesame", "sesame")))
                .hasSize(5)
                .noneMatch(detail -> detail.contains("sesame"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"from=%zz", "from=%C3", "%zz=1&from=2031-05-01", "from=2031-05-01&name=%"})
    void malformedEncodingIsAMistake(String query) {
        assertThat(errors(query)).anyMatch(detail -> detail.contains("percent-encoded"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "from=2031-05-01&from=2031-05-01",
                "from=2031-05-01&limit=1&limit=1",
                "from=2031-05-01&after=a&after=a"
            })
    void givenTwiceIsAMistake(String query) {
        assertThat(errors(query)).anyMatch(detail -> detail.contains("more than once"));
    }

    @Test
    void aFloodOfParametersIsCutShort() {
        assertThat(errors("x=1&".repeat(5_000)))
                .hasSizeLessThan(210)
                .anyMatch(detail -> detail.contains("more than 200"));
    }

    @Nested
    class Values {

        private static Object read(ParameterType type, String text) throws ValueReader.Unfit {
            return new ValueReader(type, Constraints.NONE).read(text);
        }

        @Test
        void keepTheirExactness() throws Exception {
            assertThat(read(ParameterType.NUMBER, "0.10")).isEqualTo(new BigDecimal("0.10"));
            assertThat(read(ParameterType.INTEGER, "9223372036854775807")).isEqualTo(Long.MAX_VALUE);
            assertThat(read(ParameterType.INTEGER, "1.2e1")).isEqualTo(12L);
            assertThat(read(ParameterType.INTEGER, "12.0")).isEqualTo(12L);
            assertThat(read(ParameterType.NUMBER, "1e5")).isEqualTo(new BigDecimal("100000"));
            assertThat(read(ParameterType.NUMBER, "1.50E-3")).isEqualTo(new BigDecimal("0.00150"));
            assertThat(read(ParameterType.INTEGER, "-9223372036854775808")).isEqualTo(Long.MIN_VALUE);
            assertThat(read(ParameterType.INTEGER, "18446744073709551615"))
                    .isEqualTo(new BigDecimal("18446744073709551615"));
            assertThat(read(ParameterType.DATE_TIME, "2031-05-01T12:00:00+02:00"))
                    .isEqualTo(LocalDateTime.of(2031, 5, 1, 10, 0));
            assertThat(read(ParameterType.DATE_TIME, "2031-05-01T12:00:00.125Z"))
                    .isEqualTo(LocalDateTime.of(2031, 5, 1, 12, 0, 0, 125_000_000));
            assertThat(read(ParameterType.DATE_TIME_LOCAL, "2031-05-01T12:00:00"))
                    .isEqualTo(LocalDateTime.of(2031, 5, 1, 12, 0));
            assertThat(read(ParameterType.UUID, "1B4E28BA-2FA1-4D2E-883F-0016D3CCA427"))
                    .isEqualTo("1b4e28ba-2fa1-4d2e-883f-0016d3cca427");
        }

        @ParameterizedTest
        @CsvSource({
            "INTEGER,007",
            "INTEGER,1.5",
            "INTEGER,1e99",
            "INTEGER,1e-1",
            "INTEGER,+1",
            "INTEGER,1e",
            "INTEGER,''",
            "NUMBER,1e101",
            "NUMBER,1e-101",
            "NUMBER,1e99999",
            "NUMBER,NaN",
            "NUMBER,.5",
            "BOOLEAN,TRUE",
            "DATE,2031-02-29",
            "DATE,2031-5-1",
            "DATE,12031-05-01",
            "TIME,25:00",
            "DATE_TIME,2031-05-01 12:00:00",
            "INTEGER,18446744073709551616",
            "INTEGER,-9223372036854775809",
            "INTEGER,1111111111111111111111111111111111111111111111111111",
            "DATE_TIME,2031-05-01T12:00:00",
            "DATE_TIME,2031-05-01T12:00:00+25:00",
            "DATE_TIME_LOCAL,2031-05-01T12:00:00Z",
            "DATE_TIME_LOCAL,2031-05-01T12:00:00+02:00",
            "DATE_TIME_LOCAL,2031-05-01T12:00:00-00:00",
            "UUID,1b4e28ba2fa14d2e883f0016d3cca427"
        })
        void thatDoNotFitAreRefused(ParameterType type, String text) {
            assertThat(catchThrowableOfType(ValueReader.Unfit.class, () -> read(type, text))
                            .clause())
                    .startsWith("must be");
        }

        @ParameterizedTest
        @CsvSource({
            "ab,must have at least 3 characters",
            "abcdefgh,must have at most 6 characters",
            "12345,must match the pattern ^[a-z]+$",
            "abcd,'must be one of: quay, pier'"
        })
        void areHeldToTheirConstraints(String text, String clause) throws Exception {
            Constraints constraints = new Constraints(
                    null,
                    null,
                    null,
                    null,
                    null,
                    3,
                    6,
                    TextPattern.of("^[a-z]+$"),
                    text.equals("abcd") ? List.of("quay", "pier") : List.of());
            ValueReader reader = new ValueReader(ParameterType.STRING, constraints);
            assertThat(catchThrowableOfType(ValueReader.Unfit.class, () -> reader.read(text))
                            .clause())
                    .isEqualTo(clause);
        }

        @Test
        void areHeldToTheirRange() {
            Constraints range = new Constraints(
                    BigDecimal.ONE, new BigDecimal("2.5"), null, null, null, null, null, null, List.of());
            ValueReader number = new ValueReader(ParameterType.NUMBER, range);
            assertThat(catchThrowableOfType(ValueReader.Unfit.class, () -> number.read("0.99"))
                            .clause())
                    .isEqualTo("must be at least 1");
            assertThat(catchThrowableOfType(ValueReader.Unfit.class, () -> number.read("2.51"))
                            .clause())
                    .isEqualTo("must be at most 2.5");
        }

        @Test
        void holdNoNul() {
            assertThat(catchThrowableOfType(ValueReader.Unfit.class, () -> read(ParameterType.STRING, "a\0b"))
                            .clause())
                    .contains("NUL");
        }
    }
}
