package tidybridge.core.finding;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import tidybridge.core.text.Place;

class CodeTest {

    @ParameterizedTest
    @EnumSource(Code.class)
    void everyCodeIsExplainedWithItsSeverity(Code code) {
        assertThat(CodePage.of(code))
                .startsWith("*" + code.severity().name().toLowerCase(Locale.ROOT) + "* - ")
                .contains("\n\n");
        assertThat(Code.labelled(code.label())).contains(code);
    }

    @Test
    void nothingElseIsExplained() throws Exception {
        String text = Files.readString(Path.of("..", "docs", "findings.md"));
        List<String> heads = Pattern.compile("(?m)^### (.+)$")
                .matcher(text)
                .results()
                .map(head -> head.group(1))
                .toList();
        assertThat(heads)
                .hasSizeGreaterThanOrEqualTo(40)
                .containsExactlyInAnyOrderElementsOf(
                        Arrays.stream(Code.values()).map(Code::label).toList());
    }

    @Test
    void errorsAreNeverAccepted() {
        Findings findings = new Findings();
        findings.add(Code.BIND_UNDEFINED, Place.of("a.sql"), "m", "r");
        findings.of("GET /a", () -> findings.add(Code.SELECT_STAR, Place.of("a.sql"), "m", "r"));
        findings.accept(finding -> java.util.Optional.of("because"));
        assertThat(findings.sorted()).extracting(Finding::accepted).containsExactly(null, "because");
        assertThat(findings.sorted()).extracting(Finding::operation).containsExactly(null, "GET /a");
    }
}
