package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.definition.Workspace;
import tidybridge.core.text.Nearest;

/** Which operation of the workspace's text is run, and with what. */
final class TrialArguments {

    @Parameters(index = "0", paramLabel = "MODULE", description = "Name and major version, such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Parameters(index = "1", paramLabel = "METHOD", description = "GET, POST, PUT, PATCH or DELETE")
    @SuppressWarnings("NullAway.Init")
    private String method;

    @Parameters(index = "2", paramLabel = "PATH", description = "With values in the place of placeholders: /berths/17.")
    @SuppressWarnings("NullAway.Init")
    private String path;

    @Parameters(
            index = "3..*",
            paramLabel = "NAME=VALUE",
            description = "Inputs, wherever each is taken from; lists with commas. If-Match='*' makes it conditional.")
    private List<String> pairs = new ArrayList<>();

    @Option(
            names = "--body",
            paramLabel = "JSON",
            description = "The whole body, in place of one put together from the inputs.")
    private Optional<String> body = Optional.empty();

    @Option(names = "--show-values", description = "Show the values that were bound.")
    private boolean showValues;

    @Option(
            names = "--privilege",
            paramLabel = "NAME",
            description = "A privilege the caller holds, for masked fields; may be repeated.")
    private List<String> privileges = new ArrayList<>();

    boolean showValues() {
        return showValues;
    }

    /** What is asked of the service about a module's text. */
    Map<String, Object> request(CheckedWorkspace checked) {
        Map<String, Object> request = request();
        request.put("module", CheckedWorkspace.text(chosen(checked)));
        return request;
    }

    /** The same about what is live. */
    Map<String, Object> requestLive() {
        Map<String, Object> request = request();
        request.put("live", module);
        return request;
    }

    private Map<String, Object> request() {
        Map<String, String> inputs = new LinkedHashMap<>();
        for (String pair : pairs) {
            int equals = pair.indexOf('=');
            if (equals < 1) {
                throw CommandFailure.mistyped("'" + pair + "' is no input; write it as name=value.");
            }
            inputs.put(pair.substring(0, equals), pair.substring(equals + 1));
        }
        Map<String, Object> request = new LinkedHashMap<>();
        request.put("method", method.toUpperCase(Locale.ROOT));
        request.put("path", path);
        request.put("inputs", inputs);
        body.ifPresent(text -> request.put("body", text));
        request.put("privileges", privileges);
        request.put("showValues", showValues);
        return request;
    }

    private Workspace.Module chosen(CheckedWorkspace checked) {
        List<String> known =
                checked.modules().stream().map(TrialArguments::identity).toList();
        int index = known.indexOf(module);
        if (index < 0) {
            String all = known.isEmpty() ? "no module that can be read" : String.join(", ", known);
            throw CommandFailure.refused("The workspace has no module '" + module + "'." + Nearest.hint(module, known)
                    + " It has " + all + ".");
        }
        return checked.modules().get(index);
    }

    private static String identity(Workspace.Module module) {
        return module.definition().name() + "/v" + module.definition().version().major();
    }

    /** Ends the command when the text has no such operation. */
    void expectFound(int status, boolean labelled) {
        if (status == 0 && !labelled) {
            throw CommandFailure.refused(module + " has no operation " + method.toUpperCase(Locale.ROOT) + " " + path
                    + "; './tidy check' reads its text.");
        }
    }
}
