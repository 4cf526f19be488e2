package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tidybridge.core.Cost;
import tidybridge.core.compare.TextComparison.FileDifference;
import tidybridge.core.compare.TextComparison.Line;
import tidybridge.core.definition.ModuleText;

class TextComparisonTest {

    private static TextComparison compare(Map<String, String> before, Map<String, String> now) {
        return TextComparison.of(new ModuleText("m", before), new ModuleText("m", now));
    }

    /** The earlier text with the pieces put in is the later one, whatever the two are. */
    @Test
    void thePiecesLeadFromOneTextToTheOther() {
        Random random = new Random(5);
        for (int round = 0; round < 500; round++) {
            List<String> before = lines(random, random.nextInt(40));
            List<String> now = random.nextBoolean() ? lines(random, random.nextInt(40)) : edited(random, before);
            List<FileDifference> files = compare(
                            Map.of("a.sql", String.join("\n", before)), Map.of("a.sql", String.join("\n", now)))
                    .files();
            List<Line> told = files.stream()
                    .flatMap(file -> file.pieces().stream())
                    .flatMap(piece -> piece.lines().stream())
                    .toList();
            assertThat(applied(before, told)).as("%s to %s", before, now).isEqualTo(now);
        }
    }

    private static List<String> lines(Random random, int count) {
        List<String> lines = new ArrayList<>(List.of("first"));
        for (int i = 0; i < count; i++) {
            lines.add("line " + random.nextInt(8));
        }
        return lines;
    }

    private static List<String> edited(Random random, List<String> lines) {
        List<String> edited = new ArrayList<>(lines);
        for (int i = random.nextInt(3); i >= 0; i--) {
            edited.set(random.nextInt(edited.size()), "new " + random.nextInt(100));
        }
        return edited;
    }

    private static List<String> applied(List<String> before, List<Line> told) {
        List<String> result = new ArrayList<>();
        int at = 0;
        for (Line line : told) {
            Integer number = line.before();
            int until = number == null ? at : number - 1;
            // a new line stands where its own number says
            Integer own = line.now();
            while (number == null && own != null && result.size() < own - 1) {
                result.add(before.get(at++));
            }
            while (at < until) {
                result.add(before.get(at++));
            }
            if (number != null) {
                assertThat(before.get(number - 1)).isEqualTo(line.text());
                at = number;
            }
            if (own != null) {
                assertThat(own).isEqualTo(result.size() + 1);
                result.add(line.text());
            }
        }
        result.addAll(before.subList(at, before.size()));
        return result;
    }

    @Test
    void filesThatComeAndGoAreTold() {
        TextComparison comparison = compare(Map.of("a.sql", "a", "b.sql", "b"), Map.of("b.sql", "b", "c.sql", "c"));
        assertThat(comparison.files())
                .extracting(FileDifference::file, FileDifference::state)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("a.sql", TextComparison.State.REMOVED),
                        org.assertj.core.groups.Tuple.tuple("c.sql", TextComparison.State.ADDED));
    }

    @Test
    void whatIsGoneStandsBeforeWhatCameInItsPlace() {
        List<Line> lines = compare(Map.of("a", "one\ntwo\nthree"), Map.of("a", "one\n2\nthree"))
                .files()
                .getFirst()
                .pieces()
                .getFirst()
                .lines();
        assertThat(lines)
                .containsExactly(
                        new Line(1, 1, "one"),
                        new Line(2, null, "two"),
                        new Line(null, 2, "2"),
                        new Line(3, 3, "three"));
    }

    /** Two long files that have nothing in common would take minutes. */
    @Test
    void aVeryLongFileIsNotComparedLineByLine() {
        String before = "a\n".repeat(TextComparison.MOST_LINES + 1);
        FileDifference file =
                compare(Map.of("a", before), Map.of("a", before + "b")).files().getFirst();
        assertThat(file.pieces()).isEmpty();
    }

    @Test
    void theLongestFilesThatAreComparedTakeNoTimeToSpeakOf() {
        StringBuilder before = new StringBuilder();
        StringBuilder now = new StringBuilder();
        for (int i = 0; i < TextComparison.MOST_LINES - 1; i++) {
            before.append("before ").append(i).append('\n');
            now.append("now ").append(i).append('\n');
        }
        assertThat(Cost.ofThread(() -> assertThat(compare(Map.of("a", before.toString()), Map.of("a", now.toString()))
                                .files())
                        .hasSize(1)))
                .isLessThan(Duration.ofSeconds(10));
    }
}
