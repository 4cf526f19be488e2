package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** An exchange whose header fields can be told again to another one. Used by one thread. */
final class HeadRecord implements Exchange {

    private final Exchange exchange;
    private final List<Consumer<Exchange>> told = new ArrayList<>();

    HeadRecord(Exchange exchange) {
        this.exchange = exchange;
    }

    /** What was told up to now. */
    List<Consumer<Exchange>> told() {
        return new ArrayList<>(told);
    }

    @Override
    public String path() {
        return exchange.path();
    }

    @Override
    public @Nullable String query() {
        return exchange.query();
    }

    @Override
    public void status(int status) {
        exchange.status(status);
    }

    @Override
    public void header(String name, String value) {
        told.add(other -> other.header(name, value));
        exchange.header(name, value);
    }

    @Override
    public void contentType(String mediaType) {
        told.add(other -> other.contentType(mediaType));
        exchange.contentType(mediaType);
    }

    @Override
    public void contentLength(int bytes) {
        exchange.contentLength(bytes);
    }

    @Override
    public boolean hold(int bytes) {
        return exchange.hold(bytes);
    }

    @Override
    public void trailers(List<String> names, Supplier<Map<String, String>> fields) {
        exchange.trailers(names, fields);
    }

    @Override
    public void longest(Duration time) {
        exchange.longest(time);
    }

    @Override
    public void end() throws IOException {
        exchange.end();
    }

    @Override
    public OutputStream out() throws IOException {
        return exchange.out();
    }
}
