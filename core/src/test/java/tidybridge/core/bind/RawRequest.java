package tidybridge.core.bind;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;

/**
 * A request as tests write it; Mara calls through the harbour's application.
 *
 * @param path what stands in the place of every placeholder
 */
public record RawRequest(
        @Nullable String query,
        String path,
        Map<String, String> headers,
        Map<String, String> cookies,
        byte @Nullable [] body)
        implements Inputs {

    public static RawRequest ofQuery(@Nullable String query, String path) {
        return new RawRequest(query, path, Map.of(), Map.of(), null);
    }

    public static RawRequest ofBody(@Nullable String query, byte @Nullable [] body) {
        return new RawRequest(query, "", Map.of(), Map.of(), body);
    }

    public RawRequest with(String header, String value) {
        return new RawRequest(query, path, Map.of(header, value), cookies, body);
    }

    public RawRequest withCookie(String name, String value) {
        return new RawRequest(query, path, headers, Map.of(name, value), body);
    }

    @Override
    public String path(int index) {
        return path;
    }

    @Override
    public @Nullable String header(String name) {
        return headers.get(name);
    }

    @Override
    public @Nullable String cookie(String name) {
        return cookies.get(name);
    }

    @Override
    public Caller caller() {
        return new Caller("mara", "harbour-app", List.of("partner"), "192.0.2.1", Holdings.NONE, Map.of());
    }

    @Override
    public String requestId() {
        return "r1";
    }

    @Override
    public Instant requestTime() {
        return Instant.parse("2031-05-01T10:00:00Z");
    }
}
