package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tidybridge.core.definition.ModuleText;

class TextMergeTest {

    private static final String FILE = "a.sql";

    private static ModuleText text(String content) {
        return new ModuleText("modules/a", Map.of(FILE, content));
    }

    private static TextMerge merge(String base, String mine, String theirs) {
        return TextMerge.of(text(base), text(mine), text(theirs));
    }

    private static String merged(String base, String mine, String theirs) {
        TextMerge merge = merge(base, mine, theirs);
        assertThat(merge.unsettled()).isEmpty();
        return merge.text().files().get(FILE);
    }

    @Test
    void whatOneSideChangedIsTaken() {
        String base = "select id\nfrom berth\nwhere id > 0\norder by id\n";
        String mine = "select id, name\nfrom berth\nwhere id > 0\norder by id\n";
        String theirs = "select id\nfrom berth\nwhere id > 0\norder by name\n-- more\n";
        assertThat(merged(base, mine, theirs))
                .isEqualTo("select id, name\nfrom berth\nwhere id > 0\norder by name\n-- more\n");
    }

    @Test
    void everyByteOfALineIsKept() {
        assertThat(merged("a\r\nb\r\nc", "a\r\nb\r\nc\r\nd", "x\r\nb\r\nc")).isEqualTo("x\r\nb\r\nc\r\nd");
        assertThat(merged("", "", "a")).isEqualTo("a");
    }

    @Test
    void whereBothChangedTheSameLinesBothStandThere() {
        TextMerge merge = merge("a\nb\nc\n", "a\nmine\nc\n", "a\ntheirs\nc\n");
        assertThat(merge.unsettled()).containsExactly(FILE);
        assertThat(merge.text().files().get(FILE)).isEqualTo("""
                a
                -- both changed this, to be settled: yours
                mine
                -- both changed this, to be settled: theirs
                theirs
                -- both changed this, to be settled: end
                c
                """);
        assertThat(TextMerge.isUnsettled(merge.text())).isTrue();
        assertThat(TextMerge.isUnsettled(text("a\nmine\nc\n"))).isFalse();
    }

    @Test
    void filesComeAndGo() {
        ModuleText base = new ModuleText("m", Map.of("a.sql", "a", "b.sql", "b", "c.sql", "c"));
        ModuleText mine = new ModuleText("m", Map.of("a.sql", "a", "c.sql", "changed", "mine.sql", "new"));
        ModuleText theirs = new ModuleText("m", Map.of("a.sql", "a2", "b.sql", "b", "theirs.sql", "new"));
        TextMerge merge = TextMerge.of(base, mine, theirs);
        assertThat(merge.text().files())
                .as("b is gone here, a is changed there, and c was changed here and thrown away there")
                .containsExactlyInAnyOrderEntriesOf(
                        Map.of("a.sql", "a2", "c.sql", "changed", "mine.sql", "new", "theirs.sql", "new"));
        assertThat(merge.unsettled()).containsExactly("c.sql");
    }

    private static String changed(String text, Random random) {
        List<String> lines = new ArrayList<>(List.of(text.split("(?<=\n)")));
        for (int i = random.nextInt(4); i > 0; i--) {
            int at = random.nextInt(lines.size() + 1);
            switch (random.nextInt(3)) {
                case 0 -> lines.add(at, "new" + random.nextInt(5) + "\n");
                case 1 -> lines.set(Math.min(at, lines.size() - 1), "set" + random.nextInt(5) + "\n");
                default -> {
                    if (lines.size() > 1) {
                        lines.remove(Math.min(at, lines.size() - 1));
                    }
                }
            }
        }
        return String.join("", lines);
    }

    /** Whatever the two changed: what is left out on one side is the other's, nobody's line is lost, and the sides are equal. */
    @Test
    void nothingIsLostWhateverTheTwoChanged() {
        Random random = new Random(20310501);
        int settled = 0;
        for (int i = 0; i < 20_000; i++) {
            String base = "a\nb\nc\nd\ne\nf\ng\n".substring(0, 2 * (1 + random.nextInt(7)));
            String mine = changed(base, random);
            String theirs = changed(base, random);
            assertThat(merged(base, mine, base)).isEqualTo(mine);
            assertThat(merged(base, base, theirs)).isEqualTo(theirs);
            assertThat(merged(base, mine, mine)).isEqualTo(mine);
            TextMerge one = merge(base, mine, theirs);
            TextMerge other = merge(base, theirs, mine);
            assertThat(one.unsettled()).as("%s|%s|%s", base, mine, theirs).isEqualTo(other.unsettled());
            String text = one.text().files().get(FILE);
            if (one.unsettled().isEmpty()) {
                settled++;
                assertThat(other.text().files().get(FILE)).isEqualTo(text);
            }
            for (String line : (mine + theirs).split("\n")) {
                if (!base.contains(line)) {
                    assertThat(text).as("%s|%s|%s", base, mine, theirs).contains(line + "\n");
                }
            }
        }
        assertThat(settled).isGreaterThan(2_000);
    }
}
