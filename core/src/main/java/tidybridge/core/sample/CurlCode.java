package tidybridge.core.sample;

import java.util.Map;

/** A call for curl in a POSIX shell. */
final class CurlCode {

    private CurlCode() {}

    /**
     * Writes a call.
     *
     * @param origin where the service is
     */
    static String write(SampleCall call, String origin) {
        StringBuilder code = new StringBuilder("curl");
        if (!call.method().equals("GET") && !(call.method().equals("POST") && call.body() != null)) {
            code.append(" -X ").append(call.method());
        }
        code.append(' ').append(Literals.ofShell(origin + call.path()));
        if (call.secret()) {
            code.append(" \\\n  -H \"Authorization: Bearer $BRIDGE_KEY\"");
        }
        for (Map.Entry<String, String> header : call.headers().entrySet()) {
            code.append(" \\\n  -H ").append(Literals.ofShell(header.getKey() + ": " + header.getValue()));
        }
        if (call.body() != null) {
            code.append(" \\\n  -d ").append(Literals.ofShell(call.body()));
        }
        return code.toString();
    }
}
