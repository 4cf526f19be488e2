package tidybridge.cli;

import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Sarif;
import tidybridge.core.finding.Severity;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** {@code ./tidy check --folder FOLDER} */
@Command(
        name = "check",
        description =
                "Read and compile a workspace, and say everything that is wrong: from its text alone, or with its databases as well.",
        footer = {
            "",
            "Exit code: 0 when nothing of the weight of --fail-on stands, 1 when something does.",
            "'./tidy explain CODE' explains a finding.",
            "",
            "Examples:",
            "  ./tidy check --folder demo/workspace",
            "  ./tidy check --folder demo/workspace --with-sources --fail-on warning"
        })
final class CheckCommand extends ServiceCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Option(
            names = "--with-sources",
            description = "Let the running service compare the text with its databases as well, as publishing does.")
    private boolean withSources;

    @Option(
            names = "--fail-on",
            paramLabel = "SEVERITY",
            defaultValue = "error",
            description = "error, warning or advice: what makes the exit code 1; error unless given.")
    private Severity failOn = Severity.ERROR;

    @Option(names = "--all", description = "Show what the text accepts too.")
    private boolean all;

    @ArgGroup
    private final Form form = new Form();

    /** How findings are printed. */
    static final class Form {
        @Option(names = "--json", description = "Print the findings as JSON.")
        private boolean json;

        @Option(names = "--sarif", description = "Print the findings as SARIF 2.1, for review tools.")
        private boolean sarif;
    }

    @Override
    public Integer call() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.read();
        if (withSources) {
            checked = checked.withSources(service());
        }
        if (form.json) {
            out.println(json(checked));
        } else if (form.sarif) {
            out.println(Sarif.of(checked.findings(), Tidy.VERSION));
        } else {
            new FindingPrinter(folder.path(), out)
                    .print(checked.findings().stream()
                            .filter(finding -> all || !finding.isAccepted())
                            .toList());
            out.println(checked.summary());
        }
        return checked.findings().stream()
                        .anyMatch(finding ->
                                !finding.isAccepted() && finding.severity().compareTo(failOn) <= 0)
                ? 1
                : 0;
    }

    private static String json(CheckedWorkspace checked) {
        JsonMapper mapper =
                JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
        List<Map<String, Object>> findings =
                checked.findings().stream().map(CheckCommand::json).toList();
        Map<String, Object> document = new LinkedHashMap<>();
        document.put("modules", checked.modules().size());
        document.put("operations", checked.operations());
        document.put("errors", checked.standing(Severity.ERROR));
        document.put("warnings", checked.standing(Severity.WARNING));
        document.put("advice", checked.standing(Severity.ADVICE));
        document.put("accepted", checked.accepted());
        document.put("findings", findings);
        return mapper.writeValueAsString(document);
    }

    private static Map<String, Object> json(Finding finding) {
        Map<String, Object> object = new LinkedHashMap<>();
        object.put("code", finding.code().label());
        object.put("severity", finding.severity().name().toLowerCase(Locale.ROOT));
        object.put("file", finding.place().file());
        object.put("line", finding.place().line());
        object.put("column", finding.place().column());
        object.put("message", finding.message());
        object.put("remedy", finding.remedy());
        if (finding.operation() != null) {
            object.put("operation", finding.operation());
        }
        if (finding.accepted() != null) {
            object.put("accepted", finding.accepted());
        }
        return object;
    }
}
