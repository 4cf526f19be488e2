package tidybridge.service.gateway;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** An exchange that remembers what was sent. */
final class MemoryAnswer implements Exchange {

    final Map<String, String> headers = new LinkedHashMap<>();
    final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    Supplier<Map<String, String>> trailers = Map::of;
    int status = 200;
    int room = Integer.MAX_VALUE;

    @Override
    public String path() {
        return "/api/m/v1/things";
    }

    @Override
    public @Nullable String query() {
        return null;
    }

    @Override
    public void status(int status) {
        this.status = status;
    }

    @Override
    public void header(String name, String value) {
        headers.put(name, value);
    }

    @Override
    public void contentType(String mediaType) {
        headers.put("Content-Type", mediaType);
    }

    @Override
    public void contentLength(int length) {
        headers.put("Content-Length", String.valueOf(length));
    }

    @Override
    public void trailers(List<String> names, Supplier<Map<String, String>> fields) {
        trailers = fields;
    }

    @Override
    public void longest(Duration time) {
        // nobody waits for memory
    }

    @Override
    public boolean hold(int more) {
        return more < room;
    }

    @Override
    public void end() {
        // memory needs no end
    }

    @Override
    public OutputStream out() {
        return bytes;
    }

    String body() {
        return bytes.toString(StandardCharsets.UTF_8);
    }
}
