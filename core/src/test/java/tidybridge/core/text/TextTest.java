package tidybridge.core.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TextTest {

    @Nested
    class Places {

        private final SourceText text = new SourceText("a.sql", "select\n  :x\r\nfrom t");

        @ParameterizedTest
        @CsvSource({"0,1,1", "5,1,6", "6,1,7", "7,2,1", "9,2,3", "13,3,1", "99,3,7"})
        void countLinesAndColumnsFromOne(int offset, int line, int column) {
            assertThat(text.at(offset)).isEqualTo(new Place("a.sql", line, column));
        }

        @Test
        void areShownWithTheSpotMarked() {
            assertThat(text.window(text.at(9))).isEqualTo("  :x\n  ^");
            assertThat(text.window(Place.of("a.sql"))).isEmpty();
            assertThat(text.window(new Place("a.sql", 9, 1))).isEmpty();
        }

        @Test
        void ofLongLinesAreShownInAWindowAroundTheSpot() {
            SourceText wide = new SourceText("a.sql", "x".repeat(300) + "!" + "y".repeat(300));
            String[] lines = wide.window(wide.at(300)).split("\n");
            assertThat(lines[0]).hasSize(80);
            assertThat(lines[0].charAt(lines[1].indexOf('^'))).isEqualTo('!');
        }
    }

    @Nested
    class Names {

        private final List<String> known = List.of("from", "until", "basin", "minLength");

        @ParameterizedTest
        @CsvSource(
                value = {
                    "form,from",
                    "FROM,from",
                    "minlength,minLength",
                    "basins,basin",
                    "untill,until",
                    "x,-",
                    "moorings,-"
                },
                nullValues = "-")
        void aMistypedNameFindsTheOneItWasMeantToBe(String word, String expected) {
            assertThat(Nearest.to(word, known).orElse(null)).isEqualTo(expected);
        }

        @Test
        void theHintIsASentenceOrNothing() {
            assertThat(Nearest.hint("form", known)).isEqualTo(" Did you mean 'from'?");
            assertThat(Nearest.hint("zzzz", known)).isEmpty();
        }
    }

    @Nested
    class Yaml {

        private static Node read(String text) throws BrokenText {
            return YamlText.read(new SourceText("m.yaml", text)).orElseThrow();
        }

        @Test
        void nodesKnowWhereTheyStandAndHowTheyWereWritten() throws Exception {
            Node.Mapping root = (Node.Mapping) read("a: 1\nb:\n  - 'x'\n");
            Node.Sequence items = (Node.Sequence) root.get("b");
            assertThat(root.get("a")).isEqualTo(new Node.Scalar(new Place("m.yaml", 1, 4), "1", true));
            assertThat(items.items()).containsExactly(new Node.Scalar(new Place("m.yaml", 3, 5), "x", false));
            assertThat(root.get("c")).isNull();
        }

        /** A cycle, ten times ten lists of one long list, and a single one that would be harmless. */
        @ParameterizedTest
        @ValueSource(
                strings = {
                    "a: &p { limit: 5 }\nb: *p\n",
                    "a: &a [*a]",
                    "a: &a { b: *a }",
                    "a: &a x\n? *a\n: b",
                    "<<: *base"
                })
        void aliasesAreRefused(String text) {
            assertThat(catchThrowableOfType(BrokenText.class, () -> read(text)).reason())
                    .contains("alias");
        }

        @ParameterizedTest
        @ValueSource(
                strings = {
                    "a: [1",
                    "a: 1\na: 2",
                    "a: b: c",
                    "? [x]\n: 1",
                    "\t- x",
                    "a: 'open",
                    "a: *nobody",
                    "%YAML 9.9\n--- a"
                })
        void whatCannotBeReadIsRefusedWithItsPlace(String text) {
            BrokenText broken = catchThrowableOfType(BrokenText.class, () -> read(text));
            assertThat(broken.reason()).isNotBlank().doesNotContain("\n");
            assertThat(broken.place().file()).isEqualTo("m.yaml");
        }

        @ParameterizedTest
        @ValueSource(strings = {"", "# nothing", "---\n"})
        void nothingIsNothing(String text) throws Exception {
            assertThat(YamlText.read(new SourceText("m.yaml", text))).isEmpty();
        }

        @Test
        void anAvalancheOfAliasesIsRefused() {
            StringBuilder text = new StringBuilder("a0: &a0 [x, x]\n");
            for (int i = 1; i < 40; i++) {
                text.append("a%d: &a%d [*a%d, *a%d]\n".formatted(i, i, i - 1, i - 1));
            }
            assertThat(catchThrowableOfType(BrokenText.class, () -> read(text.toString()))
                            .place())
                    .isEqualTo(new Place("m.yaml", 2, 10));
        }
    }
}
