package tidybridge.service.trial;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.service.gateway.Exchange;

/** Collects an answer in memory, up to a size. */
final class MemoryExchange implements Exchange {

    private static final int LARGEST_BYTES = 1024 * 1024;
    private static final int OK = 200;

    private final String path;
    private final @Nullable String query;
    private final Map<String, String> headers = new LinkedHashMap<>();
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private Supplier<Map<String, String>> trailers = Map::of;
    private int status = OK;
    private boolean cut;

    MemoryExchange(String path, @Nullable String query) {
        this.path = path;
        this.query = query;
    }

    @Override
    public String path() {
        return path;
    }

    @Override
    public @Nullable String query() {
        return query;
    }

    @Override
    public void status(int status) {
        this.status = status;
    }

    @Override
    public void header(String name, String value) {
        headers.merge(name, value, (one, other) -> name.equals("Vary") ? one + ", " + other : other);
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

    /** What is tried is cut at a size of its own. */
    @Override
    public boolean hold(int more) {
        return true;
    }

    @Override
    public void end() {
        // memory needs no end
    }

    @Override
    public OutputStream out() {
        return new OutputStream() {
            @Override
            public void write(int value) {
                write(new byte[] {(byte) value}, 0, 1);
            }

            @Override
            public void write(byte[] source, int offset, int length) {
                int room = LARGEST_BYTES - bytes.size();
                bytes.write(source, offset, Math.min(room, length));
                cut |= length > room;
            }
        };
    }

    Trial.Answer answer(long millis, @Nullable String trouble) {
        headers.putAll(trailers.get());
        List<Trial.Header> fields = headers.entrySet().stream()
                .map(field -> new Trial.Header(field.getKey(), field.getValue()))
                .toList();
        return new Trial.Answer(status, fields, body(), cut, millis, trouble);
    }

    private String body() {
        String type = headers.getOrDefault("Content-Type", "");
        boolean text = type.startsWith("text/") || type.contains("json") || type.contains("xml");
        return text || bytes.size() == 0
                ? bytes.toString(StandardCharsets.UTF_8)
                : "(" + bytes.size() + " bytes of " + type + ")";
    }
}
