package tidybridge.cli;

import java.io.IOException;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy call GET moorings/v1/berths from=2031-05-01 until=2031-05-04} */
@Command(
        name = "call",
        description = "Call an operation and show its answer as a table.",
        footer = {
            "",
            "Examples:",
            "  ./tidy call GET moorings/v1/berths from=2031-05-01 until=2031-05-04 limit=5",
            "  ./tidy call GET moorings/v1/berths/17 --json",
            "  ./tidy call GET passages/v1/passages lock=3 --all --to passages.csv",
            "  ./tidy call POST moorings/v1/berths/search --body '{\"vessel\": {\"length_m\": 12}}'",
            "  ./tidy call PATCH moorings/v1/bookings/12 --body '{\"note\": \"Dog on board\"}' --header If-Match='*'"
        })
final class CallCommand extends ServiceCommand {

    private static final List<String> FORMATS = List.of("json", "ndjson", "csv", "xlsx");

    @Parameters(index = "0", paramLabel = "METHOD", description = "GET, POST, PUT, PATCH or DELETE")
    @SuppressWarnings("NullAway.Init")
    private String method;

    @Parameters(
            index = "1",
            paramLabel = "ADDRESS",
            description = "Module, version and path, such as moorings/v1/berths.")
    @SuppressWarnings("NullAway.Init")
    private String address;

    @Parameters(index = "2..*", paramLabel = "NAME=VALUE", description = "Query parameters.")
    private List<String> pairs = new ArrayList<>();

    @ArgGroup
    private final RequestBody body = new RequestBody();

    /** What is sent in the body. */
    static final class RequestBody {
        @Option(names = "--body", paramLabel = "JSON", description = "Send this JSON.")
        private @Nullable String text;

        @Option(names = "--body-from", paramLabel = "FILE", description = "Send a file that holds JSON.")
        private @Nullable Path file;

        @Option(names = "--form", paramLabel = "NAME=VALUE", description = "Send a form field; may be repeated.")
        private List<String> fields = new ArrayList<>();

        private @Nullable String mediaType() {
            return !fields.isEmpty()
                    ? "application/x-www-form-urlencoded"
                    : text == null && file == null ? null : "application/json";
        }

        private byte[] bytes() {
            if (!fields.isEmpty()) {
                return pairs(fields).getBytes(StandardCharsets.UTF_8);
            }
            if (file != null) {
                try {
                    return Files.readAllBytes(file);
                } catch (IOException e) {
                    throw CommandFailure.refused("The file " + file + " cannot be read.");
                }
            }
            return text == null ? new byte[0] : text.getBytes(StandardCharsets.UTF_8);
        }
    }

    @Option(
            names = "--header",
            paramLabel = "NAME=VALUE",
            description = "Send a header field, such as If-Match='*'; may be repeated.")
    private List<String> headers = new ArrayList<>();

    @Option(
            names = "--format",
            paramLabel = "FORMAT",
            description = "Ask for json, ndjson, csv or xlsx, and print the answer as it comes.")
    private @Nullable String format;

    @Option(
            names = "--all",
            description = "Fetch every row, in one answer where the operation offers that, page by page otherwise.")
    private boolean all;

    @Option(
            names = "--to",
            paramLabel = "FILE",
            description =
                    "Fetch into a file, whose ending says the format; typed again, the command goes on where it was cut off.")
    private @Nullable Path to;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        Service service = service();
        if (all || to != null) {
            export(service);
            return 0;
        }
        if (format != null) {
            pairs.add("format=" + format);
        }
        long start = System.nanoTime();
        HttpResponse<byte[]> response =
                service.call(method.toUpperCase(Locale.ROOT), path(), fields(), body.mediaType(), body.bytes());
        long millis = (System.nanoTime() - start) / 1_000_000;
        if (json.isWanted() || format != null && response.statusCode() / 100 == 2) {
            printAsItIs(response, out);
            return response.statusCode() / 100 == 2 ? 0 : 1;
        }
        Service.expectSuccess(response);
        String type = response.headers().firstValue("Content-Type").orElse("");
        if (response.body().length > 0 && !type.contains("json")) {
            String name = response.headers().firstValue("Content-Disposition").orElse("");
            out.println(response.body().length + " bytes of " + type + ", " + name + ", " + millis + " ms");
            out.println("Type the same with --json to print them as they are.");
        } else if (response.body().length > 0) {
            print(Service.json(response), out, millis);
        } else {
            out.println(response.statusCode() + ", without content, " + millis + " ms");
        }
        return 0;
    }

    private void export(Service service) {
        if (!method.equalsIgnoreCase("GET") || body.mediaType() != null) {
            throw CommandFailure.mistyped("--all and --to are for GET without a body.");
        }
        if (pairs.stream().anyMatch(pair -> pair.startsWith("limit=") || pair.startsWith("format="))) {
            throw CommandFailure.mistyped(
                    "--all fetches every row; leave limit= and format= out, and name the format with --format.");
        }
        String path = path();
        int mark = path.indexOf('?');
        String bare = mark < 0 ? path : path.substring(0, mark);
        String query = mark < 0 ? "" : path.substring(mark + 1);
        boolean watched = System.console() != null && System.console().isTerminal();
        long expected = watched ? Export.expected(service, bare, query, fields()) : 0;
        new Export(
                        service,
                        bare,
                        query,
                        fields(),
                        format(),
                        to == null ? null : new ExportFile(to),
                        new ExportProgress(err(), watched, expected))
                .run();
    }

    /** What is asked for, or what the file's name ends with; lines of JSON otherwise. */
    private String format() {
        if (format != null) {
            return format;
        }
        String name = to == null ? "" : String.valueOf(to.getFileName());
        String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        return FORMATS.contains(ending) ? ending : "ndjson";
    }

    /** JSON as text; a file byte for byte, so that it can go into one. */
    private static void printAsItIs(HttpResponse<byte[]> response, PrintWriter out) {
        String type = response.headers().firstValue("Content-Type").orElse("json");
        if (type.contains("json") && !type.contains("ndjson")) {
            out.println(new String(response.body(), StandardCharsets.UTF_8));
        } else {
            out.flush();
            PrintStream bytes = Surroundings.here().out();
            bytes.write(response.body(), 0, response.body().length);
            bytes.flush();
        }
    }

    private Map<String, String> fields() {
        Map<String, String> fields = new LinkedHashMap<>();
        for (String header : headers) {
            int equals = header.indexOf('=');
            if (equals < 1 || !header.substring(0, equals).matches("[A-Za-z][A-Za-z0-9-]*")) {
                throw CommandFailure.mistyped("'" + header + "' is no header field; write it as Name=value.");
            }
            fields.put(header.substring(0, equals), header.substring(equals + 1));
        }
        return fields;
    }

    private String path() {
        String bare = address.replaceFirst("^/", "").replaceFirst("^api/", "");
        if (!bare.matches("[^/?#\\s]+/v\\d+(/[^?#\\s]*)?")) {
            throw CommandFailure.mistyped("'" + address + "' is no address; write it as moorings/v1/berths.");
        }
        String query = pairs(pairs);
        return "/api/" + bare + (query.isEmpty() ? "" : "?" + query);
    }

    private static String pairs(List<String> pairs) {
        StringBuilder text = new StringBuilder();
        for (String pair : pairs) {
            int equals = pair.indexOf('=');
            if (equals < 1) {
                throw CommandFailure.mistyped("'" + pair + "' is no parameter; write it as name=value.");
            }
            text.append(text.isEmpty() ? "" : "&")
                    .append(Texts.encoded(pair.substring(0, equals)))
                    .append('=')
                    .append(Texts.encoded(pair.substring(equals + 1)));
        }
        return text.toString();
    }

    private void print(JsonNode body, PrintWriter out, long millis) {
        if (!body.path("data").isArray()) {
            List<List<String>> rows = new ArrayList<>();
            body.properties().forEach(field -> rows.add(List.of(field.getKey(), text(field.getValue()))));
            out.print(Table.draw(List.of("Field", "Value"), List.of(false, false), rows));
            out.println();
            out.println(millis + " ms");
            return;
        }
        JsonNode data = body.path("data");
        printRows(data, out);
        out.println(
                data.size() + (data.size() == 1 ? " row" : " rows") + total(body.path("page")) + ", " + millis + " ms");
        String next = body.path("page").path("next").asString("");
        if (!next.isEmpty()) {
            out.println("Next page: " + commandWith(next.substring(next.lastIndexOf("after=") + "after=".length())));
        }
    }

    /** How many rows all pages have, where the caller asked; empty otherwise. */
    private static String total(JsonNode page) {
        if (page.has("total")) {
            return String.format(Locale.ROOT, " of %,d", page.path("total").asLong());
        }
        return page.has("estimate")
                ? String.format(
                        Locale.ROOT, " of about %,d", page.at("/estimate/rows").asLong())
                : "";
    }

    /** This command again, continued after a row; what a shell would take apart is quoted. */
    private String commandWith(String after) {
        StringBuilder command =
                new StringBuilder("./tidy call ").append(method).append(' ').append(address);
        for (String pair : pairs) {
            if (!pair.startsWith("after=")) {
                command.append(' ').append(ShellWord.of(pair));
            }
        }
        command.append(" after=").append(after);
        if (body.text != null) {
            command.append(" --body ").append(ShellWord.of(body.text));
        }
        if (body.file != null) {
            command.append(" --body-from ").append(ShellWord.of(body.file.toString()));
        }
        headers.forEach(header -> command.append(" --header ").append(ShellWord.of(header)));
        body.fields.forEach(field -> command.append(" --form ").append(ShellWord.of(field)));
        return command.toString();
    }

    private static void printRows(JsonNode data, PrintWriter out) {
        Set<String> names = new LinkedHashSet<>();
        data.forEach(row -> names.addAll(row.propertyNames()));
        if (names.isEmpty()) {
            return;
        }
        List<Boolean> numeric = names.stream()
                .map(name -> data.valueStream().anyMatch(row -> row.path(name).isNumber()))
                .toList();
        List<List<String>> rows = data.valueStream()
                .map(row -> names.stream().map(name -> text(row.path(name))).toList())
                .toList();
        out.print(Table.draw(List.copyOf(names), numeric, rows));
        out.println();
    }

    private static String text(JsonNode value) {
        if (value.isNull() || value.isMissingNode()) {
            return "";
        }
        return value.isString() ? value.asString() : value.toString();
    }
}
