package tidybridge.core.pattern;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.time.Duration;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.Cost;

class TextPatternTest {

    /** {@code ~} stands for a line feed in the text. */
    @ParameterizedTest
    @CsvSource(quoteCharacter = '`', textBlock = """
            ^a$,                a,      true
            ^a$,                a~,     false
            ^a\\$,               a$,     true
            ^[$]$,              $,      true
            ^[$]$,              $~,     false
            a|b$,               xb~,    false
            a$|b,               b~,     true
            ^.$,                ~,      false
            ^.$,                \u2028,      false
            ^.$,                é,      true
            ^[^]$,              ~,      true
            ^[]$,               a,      false
            ^\\s$,               \u00a0,      true
            ^[\\s]$,             \ufeff,      true
            ^\\S$,               \u00a0,      false
            ^[\\S]$,             \u2003,      false
            ^[\\s\\S]+$,          a~,     true
            ^\\d+$,              १,      false
            ^\\w+$,              é,      false
            ^\\u00e9$,           é,      true
            ^\\ud83d\\ude00$,     😀,     true
            ^\\u{1F600}$,        😀,     true
            ^.$,                😀,     true
            ^[😀-😂]$,           😁,     true
            ^\\p{Lu}\\p{L}+$,     Élan,   true
            ^\\p{Letter}+$,      été,    true
            ^\\p{Script=Greek}+$, αβγ,   true
            ^\\p{Lu}$,           a,      false
            ^[[:alpha:]]$,      a:]~,   false
            ^[[a]$,             [,      true
            ^[a&&b]+$,          a&b,    true
            ^[\\b]$,             b,      false
            ^[\\s-_]+$,          ` -_`,  true
            ^[\\w-]+$,           a-b,    true
            ^[\\d-z]+$,          1-z,    true
            ^[\\d-z]+$,          m,      false
            ^[a-\\d]+$,          a-1,    true
            ^[+--]+$,           `+,-`,  true
            ^\\/\\-\\.$,           /-.,    true
            ^(?<year>\\d{4})-x$, 2031-x, true
            ^(?:ab)+?c,         ababc,  true
            \\bquay\\b,           a quay, true
            `^a{2,3}$`,           aaaa,   false
            `^a{2,}$`,            aaaa,   true
            ^\\cJ$,              ~,      true
            ^\\x41$,             A,      true
            """)
    void meansWhatJsonSchemaSays(String pattern, String text, boolean found) throws Exception {
        assertThat(TextPattern.of(pattern).isFoundIn(text.replace('~', '\n'))).isEqualTo(found);
    }

    @ParameterizedTest
    @CsvSource(quoteCharacter = '`', textBlock = """
            (?=a)b,           looks ahead
            (?!a)b,           looks ahead
            (?<=a)b,          looks behind
            (?<!a)b,          looks behind
            (a)\\1,            refers back
            (?<q>a)\\k<q>,     refers back
            (?i)a,            has a group beginning with '(?i'
            (?>a),            has a group beginning with '(?>'
            a++,              repeats a repetition
            \\Qa\\E,            has the escape '\\Q'
            a\\z,              has the escape '\\z'
            \\p{Nothing},      is no regular expression
            (a,               is no regular expression
            a),               closes a group
            [a,               has a '[' that is not closed
            [z-a],            is no regular expression
            a{,               has a '{'
            a{2001},          more than 1000 times
            \\ud83d,           holds half a character
            a\\,               ends with a backslash
            *a,               is no regular expression
            ((a{900}){900}){9}, has more than 5000 steps
            (((((((((((a?){9}){9}){9}){9}){9}){9}){9}){9}){9}){9}){9}, has more than 5000 steps
            """)
    void whatCannotBeFoundInOnePassIsRefused(String pattern, String clause) {
        assertThat(catchThrowableOfType(TextPattern.Unfit.class, () -> TextPattern.of(pattern))
                        .clause())
                .contains(clause);
    }

    @ParameterizedTest
    @ValueSource(strings = {"\\d+-\\d+", "^(a|b)*$", "(a*)*b", "^(\\d+)*x$", "(.*a){8}", "^(?:[a-z]?){20}[a-z]{20}$"})
    void noTextCostsMoreThanItsShare(String text) throws Exception {
        TextPattern pattern = TextPattern.of(text);
        int length = Math.min(65_000, pattern.longestText());
        for (String part : new String[] {"1", "a", "ab", "é"}) {
            String value = part.repeat(length / part.length());
            assertThat(Cost.ofThread(() -> pattern.isFoundIn(value)))
                    .as("%s against %,d of '%s'; backtracking would take seconds or end the stack", text, length, part)
                    .isLessThan(Duration.ofSeconds(1));
        }
        assertThat(pattern.effort(length)).isLessThanOrEqualTo(TextPattern.MOST_EFFORT);
    }

    /** Both engines agree wherever both are used, with the JDK's backtracking engine as the judge of short texts. */
    @Test
    void randomPatternsMeanTheSameInEveryEngine() throws Exception {
        String[] atoms = {"a", "b", "-", "\\d", "\\w", "[ab]", "[^a]", "[a-c\\d]", "\\.", "[-b]", "[.b]", "[\\-a]", "1"
        };
        String[] times = {"", "", "", "?", "*", "+", "{2}", "{1,2}", "{0,}"};
        String letters = "ab-1._ c";
        Random random = new Random(11);
        int plain = 0;
        for (int i = 0; i < 20_000; i++) {
            StringBuilder pattern = new StringBuilder(random.nextInt(4) == 0 ? "" : "^");
            for (int n = random.nextInt(5); n >= 0; n--) {
                String atom = atoms[random.nextInt(atoms.length)];
                pattern.append(random.nextInt(6) == 0 ? "(?:" + atom + "|b)" : atom)
                        .append(times[random.nextInt(times.length)]);
            }
            pattern.append(random.nextInt(4) == 0 ? "" : "$");
            TextPattern ours = TextPattern.of(pattern.toString());
            Pattern judge = Pattern.compile(pattern.toString().replaceAll("\\$$", "\\\\z"));
            plain += ours.effort(1) == 0 ? 1 : 0;
            for (int k = 0; k < 5; k++) {
                StringBuilder text = new StringBuilder();
                for (int n = random.nextInt(6); n > 0; n--) {
                    text.append(letters.charAt(random.nextInt(letters.length())));
                }
                assertThat(ours.isFoundIn(text.toString()))
                        .as("'%s' in '%s'", pattern, text)
                        .isEqualTo(judge.matcher(text).find());
            }
        }
        assertThat(plain).as("patterns of the quick kind among them").isGreaterThan(1_000);
    }

    /** Whatever is written as a pattern is read in no time, or refused in a sentence. */
    @Test
    void noPatternCostsMuchToRead() {
        String[] pieces = {
            "(", ")", "[", "]", "{9}", "{999}", "{1000}", "*", "+", "?", "a", "\\", "\\p{L}", "|", "^", "$", ".",
            "(?<n>", "\\u", "-"
        };
        Random random = new Random(5);
        assertThat(Cost.ofThread(() -> {
                    for (int i = 0; i < 5_000; i++) {
                        StringBuilder pattern = new StringBuilder();
                        for (int n = random.nextInt(40); n >= 0; n--) {
                            pattern.append(pieces[random.nextInt(pieces.length)]);
                        }
                        try {
                            TextPattern.of(pattern.toString()).isFoundIn("aaaa-1");
                        } catch (TextPattern.Unfit e) {
                            assertThat(e.clause()).isNotBlank();
                        }
                    }
                }))
                .isLessThan(Duration.ofSeconds(20));
    }
}
