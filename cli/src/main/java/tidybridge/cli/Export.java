package tidybridge.cli;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Fetches every row of a collection: in one answer where the operation offers that, page by page otherwise. Used once. */
final class Export {

    private static final int BUFFER = 64 * 1024;
    private static final int BAD_INPUT = 400;

    private final Service service;
    private final String path;
    private final String query;
    private final Map<String, String> headers;
    private final String format;
    private final @Nullable ExportFile file;
    private final ExportProgress progress;
    private final boolean isTable;
    private final RowScanner scanner;
    private long before;

    /** How many rows an answer may have whose rows are not counted here; 0 where that is not told. */
    private long limit;

    private @Nullable List<String> names;

    /**
     * Prepares.
     *
     * @param path without a query
     * @param query what the caller asks of the rows, without their format and number
     * @param file null to print them
     */
    Export(
            Service service,
            String path,
            String query,
            Map<String, String> headers,
            String format,
            @Nullable ExportFile file,
            ExportProgress progress) {
        this.service = service;
        this.path = path;
        this.query = query;
        this.headers = headers;
        this.format = format;
        this.file = file;
        this.progress = progress;
        this.isTable = format.equals("csv");
        this.scanner = new RowScanner(isTable);
    }

    /** About how many rows a call has; 0 when the service does not say. */
    static long expected(Service service, String path, String query, Map<String, String> headers) {
        HttpResponse<byte[]> response =
                service.call("GET", address(path, query, "limit=1&total=estimate"), headers, null, new byte[0]);
        return response.statusCode() == 200
                ? Service.json(response).at("/page/estimate/rows").asLong(0)
                : 0;
    }

    private static String address(String path, String query, String more) {
        return path + "?" + query + (query.isEmpty() ? "" : "&") + more;
    }

    /** Fetches all of it. */
    void run() {
        ExportFile.Rest rest = file == null || !canGoOn() ? null : file.rest(address(), isTable);
        String from = rest == null ? null : key(rest.rows(), rest.key());
        if (from != null && rest != null) {
            before = rest.rows().rows();
            names = names(rest.rows());
            progress.goOn(before);
            goOn(rest.key(), from);
        } else {
            begin();
        }
        if (file != null) {
            file.finish();
        }
        String bounded = limit == 0 ? "" : String.format(Locale.ROOT, "; one answer has %,d rows at most", limit);
        progress.end((file == null ? "" : " -> " + file.path()) + bounded);
    }

    private boolean canGoOn() {
        return isTable || format.equals("ndjson");
    }

    private String address() {
        return address(path, query, "limit=all&format=" + format);
    }

    private void begin() {
        HttpResponse<InputStream> response = service.stream(address(), headers);
        try {
            if (response.statusCode() == BAD_INPUT && format.equals("ndjson") && lacksAll(response)) {
                pages();
                return;
            }
            Service.expectStreamed(response);
            List<String> key = key(response);
            if (file != null) {
                file.note(address(), key);
            }
            try (OutputStream out = open(false)) {
                copy(response, out, null);
                names = names(scanner);
                more(key, out);
            }
            checkWhole(response, key);
        } catch (IOException e) {
            throw interrupted();
        }
    }

    /** Goes on behind the last row of an earlier run, which comes once more first. */
    private void goOn(List<String> key, String from) {
        try (OutputStream out = open(true)) {
            fetchFrom(key, from, out);
            more(key, out);
        } catch (IOException e) {
            throw interrupted();
        }
    }

    private void fetchFrom(List<String> key, String from, OutputStream out) throws IOException {
        HttpResponse<InputStream> response =
                service.stream(address() + (isTable ? "&header=absent" : "") + "&from=" + Texts.encoded(from), headers);
        Service.expectStreamed(response);
        copy(response, out, row -> from.equals(RowText.key(names, row, key)));
    }

    /** What is behind the most rows that one answer may have. */
    private void more(List<String> key, OutputStream out) throws IOException {
        String from = key(scanner, key);
        while (from != null && isMoreBehind(from)) {
            fetchFrom(key, from, out);
            from = key(scanner, key);
        }
    }

    /** An answer that is as long as one may be, and nobody can say whether it is whole. */
    private void checkWhole(HttpResponse<InputStream> response, List<String> key) {
        long most = response.headers().firstValueAsLong("Row-Limit").orElse(0);
        if (!canGoOn()) {
            limit = most;
        } else if (key.isEmpty() && most > 0 && scanner.rows() - (isTable ? 1 : 0) >= most) {
            throw CommandFailure.refused(String.format(
                    Locale.ROOT,
                    "The answer has %,d rows, as many as one may have, and the operation offers no way to go on behind them; ask for fewer with conditions.",
                    most));
        }
    }

    private boolean isMoreBehind(String from) {
        HttpResponse<byte[]> two = service.call(
                "GET", address(path, query, "limit=2&from=" + Texts.encoded(from)), headers, null, new byte[0]);
        return Service.json(Service.expectSuccess(two)).path("data").size() > 1;
    }

    private @Nullable String key(RowScanner rows, List<String> key) {
        byte[] last = rows.last();
        return key.isEmpty() || last == null || last == rows.first() && isTable
                ? null
                : RowText.key(names == null ? names(rows) : names, last, key);
    }

    /** What the first line of a table calls its columns; null for lines of JSON. */
    private @Nullable List<String> names(RowScanner rows) {
        byte[] first = rows.first();
        return isTable && first != null ? RowText.cells(first) : null;
    }

    /** The fields by which the service says one can go on at a row. */
    private static List<String> key(HttpResponse<InputStream> response) {
        List<String> key = new ArrayList<>();
        response.headers()
                .firstValue("Row-Key")
                .ifPresent(names -> Arrays.stream(names.split(", "))
                        .map(name -> name.replace("\"", ""))
                        .forEach(key::add));
        return key;
    }

    /** Whether a row is there already. */
    private interface Held {
        boolean has(byte[] row);
    }

    private void copy(HttpResponse<InputStream> response, OutputStream out, @Nullable Held held) throws IOException {
        try (InputStream in = response.body()) {
            byte[] some = new byte[BUFFER];
            int read = in.read(some);
            if (held != null) {
                RowScanner head = new RowScanner(isTable);
                ByteArrayOutputStream begun = new ByteArrayOutputStream();
                while (read >= 0 && head.first() == null) {
                    head.take(some, read);
                    begun.write(some, 0, read);
                    read = in.read(some);
                }
                byte[] first = head.first();
                int skipped = first != null && held.has(first) ? first.length : 0;
                byte[] rest = Arrays.copyOfRange(begun.toByteArray(), skipped, begun.size());
                write(rest, rest.length, out);
            }
            for (; read >= 0; read = in.read(some)) {
                write(some, read, out);
            }
        }
    }

    private void write(byte[] bytes, int length, OutputStream out) throws IOException {
        out.write(bytes, 0, length);
        if (!canGoOn()) {
            progress.moved(-1, length);
            return;
        }
        scanner.take(bytes, length);
        long lines = before + scanner.rows();
        // one line of a table names its columns
        progress.moved(isTable && lines > 0 ? lines - 1 : lines, length);
    }

    /** The same as lines of JSON from pages of JSON, where the operation has no answer of all rows. */
    private void pages() throws IOException {
        JsonNode page = page(query.isEmpty() ? path : path + "?" + query);
        try (OutputStream out = open(false)) {
            String next = write(page, out);
            while (!next.isEmpty()) {
                next = write(page(next), out);
            }
        }
    }

    private JsonNode page(String address) {
        JsonNode page = Service.json(Service.expectSuccess(service.call("GET", address, headers, null, new byte[0])));
        if (!page.path("data").isArray()) {
            throw CommandFailure.refused("This operation answers no collection; leave --all out.");
        }
        return page;
    }

    /** Writes its rows; what is behind them is the address of the next page. */
    private String write(JsonNode page, OutputStream out) throws IOException {
        for (JsonNode row : page.path("data")) {
            byte[] line = (row + "\n").getBytes(StandardCharsets.UTF_8);
            write(line, line.length, out);
        }
        return page.at("/page/next").asString("");
    }

    /** True when the service knows no answer of all rows here, or not in this format. */
    private static boolean lacksAll(HttpResponse<InputStream> response) throws IOException {
        JsonNode problem = Service.parse(new String(response.body().readAllBytes(), StandardCharsets.UTF_8));
        for (JsonNode error : problem.path("errors")) {
            String parameter = error.path("parameter").asString("");
            if (!parameter.equals("limit") && !parameter.equals("format")) {
                throw CommandFailure.refused("400 " + problem.path("title").asString() + ": "
                        + error.path("detail").asString());
            }
        }
        return problem.path("errors").size() > 0;
    }

    private OutputStream open(boolean goesOn) {
        return file == null ? new Printed() : file.open(goesOn);
    }

    private CommandFailure interrupted() {
        return CommandFailure.unreachable(
                file == null
                        ? "The answer broke off after " + scanner.rows() + " rows; what was printed is not whole."
                        : "The answer broke off; type the same command again to go on behind the last whole row.");
    }

    /** The standard output, which stays open. */
    private static final class Printed extends OutputStream {
        private final PrintStream out = Surroundings.here().out();

        @Override
        public void write(int value) {
            out.write(value);
        }

        @Override
        public void write(byte[] source, int offset, int length) {
            out.write(source, offset, length);
        }

        @Override
        public void close() {
            out.flush();
        }
    }
}
