package tidybridge.service;

import jakarta.servlet.ServletException;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;

/**
 * Takes a request's address, name and scheme from what believed proxies say of it in {@code Forwarded} (RFC 7239). Each proxy adds whom it
 * was called by, so the list is read from its end, for as long as the addresses are those of believed proxies; what stands before that anybody
 * may have written.
 */
final class ForwardedValve extends ValveBase {

    /** Whoever is hidden, or cannot be read, calls from nowhere that anybody allows by name. */
    private static final String NOWHERE = "0.0.0.0";

    private static final int MOST_ELEMENTS = 50;
    private static final int HTTP = 80;
    private static final int HTTPS = 443;
    private static final String TOKEN = "[!#$%&'*+.^_`|~0-9A-Za-z-]+";
    private static final Pattern PAIR =
            Pattern.compile("\\G\\s*(" + TOKEN + ")=(" + TOKEN + "|\"(?:[^\"\\\\]|\\\\.)*\")\\s*([;,]|$)");
    private static final Pattern NODE = Pattern.compile("(?:\\[([0-9A-Fa-f:.]+)]|([0-9.]+))(?::\\d{1,5})?");
    private static final Pattern HOST = Pattern.compile("([A-Za-z0-9.-]{1,253}|\\[[0-9A-Fa-f:.]+])(?::(\\d{1,5}))?");

    private final Set<String> believed;

    ForwardedValve(List<String> proxies) {
        super(true);
        this.believed = Set.copyOf(proxies);
    }

    @Override
    public void invoke(Request request, Response response) throws IOException, ServletException {
        String before = request.getRemoteAddr();
        if (believed.contains(before)) {
            List<String> fields = Collections.list(request.getHeaders("Forwarded"));
            if (!fields.isEmpty()) {
                apply(request, elements(String.join(",", fields)));
            }
        }
        try {
            getNext().invoke(request, response);
        } finally {
            request.setRemoteAddr(before);
        }
    }

    private void apply(Request request, @Nullable List<Map<String, String>> elements) {
        if (elements == null) {
            request.setRemoteAddr(NOWHERE);
            return;
        }
        for (int i = elements.size() - 1; i >= 0; i--) {
            Map<String, String> element = elements.get(i);
            String address = address(element.get("for"));
            if (i == 0 || !believed.contains(address)) {
                request.setRemoteAddr(address);
                rename(request, element);
                return;
            }
        }
    }

    /** What an element says of the scheme and the name that were asked for. */
    private static void rename(Request request, Map<String, String> element) {
        String scheme = element.getOrDefault("proto", "").toLowerCase(Locale.ROOT);
        if (scheme.equals("http") || scheme.equals("https")) {
            boolean secure = scheme.equals("https");
            request.setSecure(secure);
            request.getCoyoteRequest().scheme().setString(scheme);
            request.setServerPort(secure ? HTTPS : HTTP);
        }
        Matcher host = HOST.matcher(element.getOrDefault("host", ""));
        if (host.matches()) {
            request.getCoyoteRequest().serverName().setString(host.group(1));
            if (host.group(2) != null) {
                request.setServerPort(Integer.parseInt(host.group(2)));
            }
        }
    }

    private static String address(@Nullable String node) {
        Matcher matcher = NODE.matcher(node == null ? "" : node);
        if (!matcher.matches()) {
            return NOWHERE;
        }
        String address = matcher.group(1) == null ? matcher.group(2) : matcher.group(1);
        return address.indexOf('/') < 0 && AddressList.isNetwork(address) ? address : NOWHERE;
    }

    /** The elements in their order, names in lower case; null for what cannot be read. */
    private static @Nullable List<Map<String, String>> elements(String field) {
        List<Map<String, String>> elements = new ArrayList<>();
        Map<String, String> element = new HashMap<>();
        Matcher pair = PAIR.matcher(field);
        int end = 0;
        while (pair.find() && elements.size() < MOST_ELEMENTS) {
            end = pair.end();
            String value = pair.group(2);
            element.put(
                    pair.group(1).toLowerCase(Locale.ROOT),
                    value.startsWith("\"")
                            ? value.substring(1, value.length() - 1).replaceAll("\\\\(.)", "$1")
                            : value);
            if (!pair.group(3).equals(";")) {
                elements.add(element);
                element = new HashMap<>();
            }
        }
        return end == field.length() && !elements.isEmpty() ? elements : null;
    }
}
