package tidybridge.cli;

import java.util.Locale;
import picocli.CommandLine.Parameters;

/** An operation that is asked about: module, method and path. */
final class OperationArguments {

    @Parameters(paramLabel = "MODULE", description = "Such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Parameters(paramLabel = "METHOD", description = "Such as GET.")
    @SuppressWarnings("NullAway.Init")
    private String method;

    @Parameters(paramLabel = "PATH", description = "Such as /berths, /berths/{berth_no} or /berths/12.")
    @SuppressWarnings("NullAway.Init")
    private String path;

    /** The query of the management API. */
    String query() {
        return query(module, method, path);
    }

    static String query(String module, String method, String path) {
        return "?module=" + Texts.encoded(module) + "&method=" + Texts.encoded(method.toUpperCase(Locale.ROOT))
                + "&path=" + Texts.encoded(path);
    }
}
