package tidybridge.cli;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.CodePage;
import tidybridge.core.text.Nearest;

/** {@code ./tidy explain order-not-total} */
@Command(
        name = "explain",
        description = "Explain a finding: what was found, why it matters, what to do. Without a code, list them.",
        footer = {"", "Example:", "  ./tidy explain order-not-total"})
final class ExplainCommand extends TidyCommand {

    @Parameters(arity = "0..1", paramLabel = "CODE", description = "As './tidy check' shows it.")
    private @Nullable String label;

    @Override
    public Integer call() {
        String wanted = label;
        if (wanted == null) {
            List<List<String>> rows = Arrays.stream(Code.values())
                    .map(code -> List.of(code.label(), code.severity().name().toLowerCase(Locale.ROOT)))
                    .toList();
            out().print(Table.draw(List.of("Finding", "Severity"), List.of(false, false), rows));
            return 0;
        }
        List<String> known = Arrays.stream(Code.values()).map(Code::label).toList();
        Code code = Code.labelled(wanted)
                .orElseThrow(() -> CommandFailure.mistyped("There is no finding '" + wanted + "'."
                        + Nearest.hint(wanted, known) + " './tidy explain' lists them."));
        out().println(code.label() + "\n\n" + CodePage.of(code));
        return 0;
    }
}
