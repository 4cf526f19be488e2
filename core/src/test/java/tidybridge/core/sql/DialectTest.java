package tidybridge.core.sql;

import static org.assertj.core.api.Assertions.assertThat;

import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/** What a dialect says of names, pages and refusals; words are classified once, whatever their case. */
class DialectTest {

    private static final Dialect DIALECT = Dialect.usual();

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '"', textBlock = """
            berth_no  | berth_no      | `berth_no`
            two words | `two words`   | `two words`
            a`b       | `a``b`        | `a``b`
            1st       | `1st`         | `1st`
            """)
    void namesAreQuotedWhereTheyNeedIt(String name, String named, String quoted) {
        assertThat(DIALECT.named(name)).isEqualTo(named);
        assertThat(DIALECT.quoted(name)).isEqualTo(quoted);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '"', textBlock = """
            Unknown column 'b.lenght' in 'SELECT'                          | 2:8
            Table 'waterways.brth' doesn't exist                           | 3:6
            FUNCTION waterways.tol_due does not exist                      | 4:7
            You have an error in your SQL syntax; near 'wher id = 1' at 1  | 5:1
            Access denied for user                                         |
            Unknown column 'nothing.like.it' in 'SELECT'                   |
            """)
    void aRefusalPointsToWhatItNames(String reason, @Nullable String at) throws Exception {
        Statement statement = Statement.scan(
                new SourceText(
                        "t.sql", "select b.id,\n       b.lenght\nfrom brth b\nwhere tol_due(:x) > 1\nwher id = 1"),
                DIALECT);
        assertThat(DIALECT.placeOf(statement, reason).map(Place::toString))
                .isEqualTo(java.util.Optional.ofNullable(at).map(place -> "t.sql:" + place));
    }

    @ParameterizedTest
    @EnumSource(Word.class)
    void everyWordIsKnownInAnyCase(Word word) {
        String text = "x " + word.name().toLowerCase(java.util.Locale.ROOT) + " y";
        Word expected = word == Word.NAME ? Word.NAME : word;
        assertThat(Word.of(text, 2, text.length() - 2)).isEqualTo(expected);
        assertThat(Word.of(word.name(), 0, word.name().length())).isEqualTo(expected);
    }

    @Test
    void whatIsQuotedOrLongerIsNoWord() throws Exception {
        assertThat(Word.of("selects", 0, 7)).isEqualTo(Word.NAME);
        assertThat(Word.of("a", 0, 1)).isEqualTo(Word.NAME);
        Statement statement =
                Statement.scan(new SourceText("t.sql", "select `where`, 'order' from t `limit`"), DIALECT);
        assertThat(statement.topLevel(Word.WHERE)).isEmpty();
        assertThat(statement.topLevel(Word.ORDER)).isEmpty();
        assertThat(statement.topLevel(Word.LIMIT)).isEmpty();
        assertThat(statement.topLevel(Word.FROM)).isPresent();
    }
}
