package tidybridge.service.gateway;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.RawRequest;
import tidybridge.core.definition.Need;
import tidybridge.service.run.StateCondition;

/** What the header fields of requests and answers mean, each by itself. */
class FieldsTest {

    private static RawRequest of(String header, String value) {
        return RawRequest.ofBody(null, null).with(header, value);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            "a"            | "a" | false | true
            "a"            | "b" | false | false
            "b", "a" , "c" | "a" | false | true
            *              | "a" | false | true
            *              |     | false | true
            W/"a"          | "a" | true  | true
            W/"a"          | "a" | false | false
            a              | "a" | true  | false
            ``             | "a" | true  | false
            """)
    void aListOfTagsNamesATag(String list, @Nullable String tag, boolean weak, boolean named) {
        assertThat(new TagList(list, weak).name(true, tag)).isEqualTo(named);
    }

    @Test
    void whatMakesARequestConditionalIsRead() throws BadInput {
        assertThat(ConditionalFields.read(of("Accept", "*/*"))).isSameAs(StateCondition.NONE);
        StateCondition match = ConditionalFields.read(of("If-Match", "W/\"a\", \"b\""));
        assertThat(match.said()).isTrue();
        assertThat(match.match().name(true, "\"b\"")).isTrue();
        assertThat(match.match().name(true, "\"a\""))
                .as("a weak tag is none for a change")
                .isFalse();
        assertThat(match.noneMatch()).isNull();
        StateCondition none = ConditionalFields.read(of("If-None-Match", "W/\"a\""));
        assertThat(none.noneMatch().name(true, "\"a\"")).isTrue();
        StateCondition since = ConditionalFields.read(of("If-Unmodified-Since", "Thu, 01 May 2031 12:30:00 GMT"));
        assertThat(since.unmodifiedSince()).isEqualTo(ZonedDateTime.of(2031, 5, 1, 12, 30, 0, 0, ZoneOffset.UTC));
        assertThatThrownBy(() -> ConditionalFields.read(of("If-Unmodified-Since", "soon")))
                .isInstanceOf(BadInput.class);
        assertThat(new TagList("*", false).name(false, null))
                .as("nothing is there")
                .isFalse();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Thu, 01 May 2031 12:30:00 GMT   | 2031-05-01T12:30:00Z
            Thu, 01 May 2031 14:30:00 +0200 | 2031-05-01T12:30:00Z
            ' Thu, 01 May 2031 12:30:00 GMT ' | 2031-05-01T12:30:00Z
            Fri, 01 May 2031 12:30:00 GMT   |
            2031-05-01T12:30:00Z            |
            soon                            |
            """)
    void timesOfHeaderFieldsAreRead(String text, @Nullable Instant expected) {
        ZonedDateTime time = HttpTimes.read(text);
        assertThat(time == null ? null : time.toInstant()).isEqualTo(expected);
    }

    @Test
    void timesAreWrittenInGreenwich() {
        assertThat(HttpTimes.write(ZonedDateTime.parse("2031-05-11T14:30:00+02:00")))
                .isEqualTo("Sun, 11 May 2031 12:30:00 GMT");
        assertThat(HttpTimes.read(null)).isNull();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
                            |                                    | true
            */*             | application/json                   | true
            application/*   | application/json                   | true
            text/html       | application/json                   | false
            text/html, application/json;q=0.5 | application/json | true
            application/json;q=0 | application/json              | false
            */*, application/json;q=0.0 | application/json       | false
            APPLICATION/JSON | application/json                  | true
            """)
    void acceptedMediaTypesAreTold(@Nullable String accept, @Nullable String type, boolean taken) {
        assertThat(AcceptField.takes(accept, type == null ? "application/json" : type))
                .isEqualTo(taken);
    }

    @Test
    void aKeyStandsForOneRequestOfOneCallerAndOperation() throws Exception {
        assertThat(RepeatKey.read(of("Idempotency-Key", " \"k 1\" "), Need.OPTIONAL))
                .isEqualTo("k 1");
        assertThat(RepeatKey.read(of("Other", "x"), Need.OPTIONAL)).isNull();
        assertThat(RepeatKey.scoped("m/v1 POST /a", "", "k"))
                .isNotEqualTo(RepeatKey.scoped("m/v1 POST /a", "anna", "k"))
                .isNotEqualTo(RepeatKey.scoped("m/v1 POST /b", "", "k"))
                .isNotEqualTo(RepeatKey.scoped("m/v1 POST /a", "k", ""));
        RawRequest bare = RawRequest.ofBody(null, null);
        String print = RepeatKey.print(bare, "/a", List.of());
        assertThat(RepeatKey.print(RawRequest.ofBody("a=1", null), "/a", List.of()))
                .isNotEqualTo(print);
        assertThat(RepeatKey.print(RawRequest.ofBody(null, new byte[] {1}), "/a", List.of()))
                .isNotEqualTo(print);
        assertThat(RepeatKey.print(RawRequest.ofBody(null, new byte[] {(byte) 0x81}), "/a", List.of()))
                .isNotEqualTo(RepeatKey.print(RawRequest.ofBody(null, new byte[] {(byte) 0x82}), "/a", List.of()));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "  ", "\"\"", "k\u00e9", "k\u0001"})
    void aKeyIsVisibleAsciiOfSomeLength(String field) {
        assertThatThrownBy(() -> RepeatKey.read(of("Idempotency-Key", field), Need.OPTIONAL))
                .isInstanceOf(BadInput.class);
    }

    @Test
    void aKeyMayBeRequiredAndHasALength() throws Exception {
        assertThatThrownBy(() -> RepeatKey.read(of("Other", "x"), Need.REQUIRED))
                .isInstanceOfSatisfying(
                        BadInput.class,
                        bad -> assertThat(bad.errors().getFirst().detail()).contains("is required"));
        assertThat(RepeatKey.read(of("Idempotency-Key", "k".repeat(255)), Need.REQUIRED))
                .hasSize(255);
        assertThatThrownBy(() -> RepeatKey.read(of("Idempotency-Key", "k".repeat(256)), Need.REQUIRED))
                .isInstanceOf(BadInput.class);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            /p | after=x             | /p?after=NEW
            /p | limit=5             | /p?limit=5&after=NEW
            /p | after=x&limit=5     | /p?limit=5&after=NEW
            /p | afterwards=1&&after= | /p?afterwards=1&after=NEW
            /p |                     | /p?after=NEW
            """)
    void theNextPageIsThisOneContinued(String path, @Nullable String query, String expected) {
        assertThat(PageAddress.of(path, query, false, "after", "NEW")).isEqualTo(expected);
    }

    @Test
    void whereAPageBeginsIsSaidOnce() {
        assertThat(PageAddress.of("/p", "from=a&x[eq]=1&last=true&before=b", true, "before", "NEW"))
                .isEqualTo("/p?x%5Beq%5D=1&before=NEW");
        assertThat(PageAddress.of("/p", "from=2031-05-01&last=2", false, "after", "NEW"))
                .isEqualTo("/p?from=2031-05-01&last=2&after=NEW");
        assertThat(PageAddress.of("/p", "after=a", true, "after", null)).isEqualTo("/p");
    }

    @Test
    void valuesOfTheDataCannotBreakAHeaderField() {
        assertThat(HeaderValues.safe(" a\r\nSet-Cookie: x=1\u007f ")).isEqualTo("a  Set-Cookie: x=1 ");
        assertThat(HeaderValues.safe("Quay")).isEqualTo("Quay");
        byte[] bytes = HeaderValues.safe("Käse €").getBytes(java.nio.charset.StandardCharsets.ISO_8859_1);
        assertThat(new String(bytes, java.nio.charset.StandardCharsets.UTF_8)).isEqualTo("Käse €");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Sun, 06 Nov 1994 08:49:37 GMT
            Sun, 6 Nov 1994 08:49:37 GMT
            Sunday, 06-Nov-94 08:49:37 GMT
            Sun Nov  6 08:49:37 1994
            """)
    void everyFormOfATimeIsReadAndOneIsWritten(String text) {
        ZonedDateTime time = HttpTimes.read(text);
        assertThat(time).isNotNull();
        assertThat(HttpTimes.write(time)).isEqualTo("Sun, 06 Nov 1994 08:49:37 GMT");
    }
}
