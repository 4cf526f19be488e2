package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tidybridge.core.finding.Finding;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** {@code ./tidy check FOLDER} */
@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        description = "Read and compile a workspace without a service or a database, and say everything that is wrong.",
        footer = {"", "Exit code: 0 without errors, 1 with.", "", "Example:", "  ./tidy check demo/workspace"})
final class CheckCommand implements Callable<Integer> {

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Parameters(paramLabel = "FOLDER", description = "The folder that holds workspace.yaml.")
    @SuppressWarnings("NullAway.Init")
    private Path folder;

    @Option(names = "--json", description = "Print the findings as JSON.")
    private boolean json;

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        CheckedWorkspace checked = CheckedWorkspace.read(folder);
        if (json) {
            out.println(json(checked));
        } else {
            new FindingPrinter(folder, out).print(checked.findings());
            out.println(checked.summary());
        }
        return checked.errors() > 0 ? 1 : 0;
    }

    private static String json(CheckedWorkspace checked) {
        JsonMapper mapper =
                JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
        List<Map<String, Object>> findings =
                checked.findings().stream().map(CheckCommand::json).toList();
        Map<String, Object> document = new LinkedHashMap<>();
        document.put("modules", checked.modules().size());
        document.put("operations", checked.operations());
        document.put("errors", checked.errors());
        document.put("warnings", checked.warnings());
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
        return object;
    }
}
