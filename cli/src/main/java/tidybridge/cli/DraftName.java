package tidybridge.cli;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tidybridge.core.definition.Workspace;

/** {@code moorings/v1} */
record DraftName(String module, int major) {

    private static final Pattern FORM = Pattern.compile("([a-z][a-z0-9-]{0,62})/v(\\d{1,5})");

    static DraftName parse(String text) {
        Matcher parts = FORM.matcher(text);
        if (!parts.matches()) {
            throw CommandFailure.mistyped(
                    "'" + text + "' is no module; write it with its major version, as moorings/v1.");
        }
        return new DraftName(parts.group(1), Integer.parseInt(parts.group(2)));
    }

    static DraftName of(Workspace.Module module) {
        return new DraftName(
                module.definition().name(), module.definition().version().major());
    }

    /** Where it is on the service. */
    String path() {
        return "/desk/drafts/" + module + "/v" + major;
    }

    @Override
    public String toString() {
        return module + "/v" + major;
    }
}
