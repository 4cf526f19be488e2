package tidybridge.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.JsonNodeFeature;
import tools.jackson.databind.json.JsonMapper;

/** Speaks HTTP to a running service. */
final class Service implements AutoCloseable {

    /** Keeps decimals as they were written, {@code 34.20} and not {@code 34.2}. */
    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .build();

    private static final Duration CONNECT_LIMIT = Duration.ofSeconds(5);
    private static final Duration ANSWER_LIMIT = Duration.ofMinutes(11);
    private static final String AUTHORIZATION = "Authorization";
    private static final String TOKEN_FILE = "administrator.token";

    private final URI base;
    private final @Nullable Path home;
    private final @Nullable String signedIn;
    private final @Nullable Path trust;
    private final HttpClient http;

    /**
     * Prepares to speak to a service.
     *
     * @param home where the administrator's token may lie; null for nowhere
     * @param signedIn the token of a sign-in; null for none
     * @param trust the file of those whose signature of the server's certificate is believed; null for those that this machine trusts
     */
    Service(URI base, @Nullable Path home, @Nullable String signedIn, @Nullable Path trust) {
        this.base = base;
        this.home = home;
        this.signedIn = signedIn;
        HttpClient.Builder builder =
                HttpClient.newBuilder().connectTimeout(CONNECT_LIMIT).version(HttpClient.Version.HTTP_1_1);
        this.trust = trust;
        SSLContext context =
                base.getScheme().equals("http") ? Trust.inNobody() : trust == null ? null : Trust.in(trust);
        this.http = (context == null ? builder : builder.sslContext(context)).build();
    }

    /** The file of those whose signature of the server's certificate is believed; empty for those that this machine trusts. */
    String trust() {
        return trust == null ? "" : trust.toAbsolutePath().toString();
    }

    @Override
    public void close() {
        http.shutdownNow();
        http.close();
    }

    /** Where the service is. */
    URI address() {
        return base;
    }

    /** An address on the service. */
    URI at(String path) {
        return URI.create(base.toString().replaceFirst("/$", "") + path);
    }

    /** Reads from the management API; a problem ends the command. */
    JsonNode desk(String path) {
        return json(expectSuccess(send(deskRequest(path).GET().build())));
    }

    /** Reads from the management API and hands back whatever it answers. */
    HttpResponse<byte[]> get(String path) {
        return send(deskRequest(path).GET().build());
    }

    /** Puts to the management API and hands back whatever it answers. */
    HttpResponse<byte[]> put(String path, Object body) {
        return send(deskRequest(path)
                .header("Content-Type", "application/json")
                .PUT(HttpRequest.BodyPublishers.ofByteArray(JSON.writeValueAsBytes(body)))
                .build());
    }

    /**
     * Changes something at the management API that whoever asks has seen, and hands back whatever it answers.
     *
     * @param body null for none
     * @param condition the name of a header field and its value
     */
    HttpResponse<byte[]> change(
            String method, String path, @Nullable Object body, Map.Entry<String, String> condition) {
        HttpRequest.Builder request = deskRequest(path).header(condition.getKey(), condition.getValue());
        if (body == null) {
            return send(
                    request.method(method, HttpRequest.BodyPublishers.noBody()).build());
        }
        return send(request.header("Content-Type", "application/json")
                .method(method, HttpRequest.BodyPublishers.ofByteArray(JSON.writeValueAsBytes(body)))
                .build());
    }

    /** Deletes at the management API and hands back whatever it answers. */
    HttpResponse<byte[]> delete(String path) {
        return send(deskRequest(path).DELETE().build());
    }

    /** Posts without any token, to sign in. */
    HttpResponse<byte[]> open(String path, Object body) {
        return send(HttpRequest.newBuilder(at(path))
                .timeout(ANSWER_LIMIT)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofByteArray(JSON.writeValueAsBytes(body)))
                .build());
    }

    /** Posts to the management API and hands back whatever it answers. */
    HttpResponse<byte[]> post(String path, Object body) {
        byte[] bytes =
                body instanceof String text ? text.getBytes(StandardCharsets.UTF_8) : JSON.writeValueAsBytes(body);
        return send(deskRequest(path)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofByteArray(bytes))
                .build());
    }

    /**
     * Calls a module. The token of a sign-in goes along, or the administrator's where it can be read, unless a header field shows something
     * else.
     *
     * @param mediaType null to send no body
     */
    HttpResponse<byte[]> call(
            String method, String path, Map<String, String> headers, @Nullable String mediaType, byte[] body) {
        HttpRequest.Builder request = called(path, headers);
        if (mediaType == null) {
            return send(
                    request.method(method, HttpRequest.BodyPublishers.noBody()).build());
        }
        request.header("Content-Type", mediaType);
        return send(request.method(method, HttpRequest.BodyPublishers.ofByteArray(body))
                .build());
    }

    /** Calls a module as {@link #call} does, for an answer that is read while it comes. */
    HttpResponse<InputStream> stream(String path, Map<String, String> headers) {
        return send(called(path, headers).GET().build(), BodyHandlers.ofInputStream());
    }

    /** Sends a file as it is, and hands the answer on. */
    HttpResponse<byte[]> upload(String path, Path file) {
        return expectSuccess(send(fileRequest(path, file)));
    }

    /**
     * Sends a file as it is, and reads an answer of lines of JSON while they come.
     *
     * @param each is told every line but the last
     * @return the last line
     */
    JsonNode uploadInLines(String path, Path file, Consumer<JsonNode> each) {
        HttpResponse<InputStream> response = send(fileRequest(path, file), BodyHandlers.ofInputStream());
        JsonNode last = JSON.missingNode();
        try (BufferedReader lines =
                new BufferedReader(new InputStreamReader(response.body(), StandardCharsets.UTF_8))) {
            expectStreamed(response);
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                if (!last.isMissingNode()) {
                    each.accept(last);
                }
                last = JSON.readTree(line);
            }
        } catch (IOException e) {
            throw CommandFailure.unreachable(
                    "The answer of " + base + " broke off; what it was to do may be done or not.");
        }
        return last;
    }

    private HttpRequest fileRequest(String path, Path file) {
        try {
            return deskRequest(path)
                    .header("Content-Type", "application/octet-stream")
                    .POST(HttpRequest.BodyPublishers.ofFile(file))
                    .build();
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be read.");
        }
    }

    /** Hands a streamed answer on when it is one of the 200s; otherwise ends the command with its problem in one line. */
    static void expectStreamed(HttpResponse<InputStream> response) throws IOException {
        if (response.statusCode() / 100 != 2) {
            throw CommandFailure.refused(
                    problem(response.statusCode(), response.body().readAllBytes()));
        }
    }

    private HttpRequest.Builder called(String path, Map<String, String> headers) {
        HttpRequest.Builder request = HttpRequest.newBuilder(at(path)).timeout(ANSWER_LIMIT);
        try {
            headers.forEach(request::setHeader);
        } catch (IllegalArgumentException e) {
            throw CommandFailure.mistyped("One of the header fields cannot be sent; mend its name or value.");
        }
        if (headers.keySet().stream().noneMatch(AUTHORIZATION::equalsIgnoreCase)) {
            token().ifPresent(token -> request.header(AUTHORIZATION, "Bearer " + token));
        }
        return request;
    }

    private HttpRequest.Builder deskRequest(String path) {
        String token = token().orElseThrow(
                        () -> CommandFailure.refused(
                                "You are not signed in at " + base
                                        + ", and no administrator's token can be read; type './tidy sign-in NAME', or name the service's home with --home."));
        return HttpRequest.newBuilder(at(path)).timeout(ANSWER_LIMIT).header(AUTHORIZATION, "Bearer " + token);
    }

    /** True for an address on this machine. */
    static boolean isThisMachine(URI address) {
        String host = address.getHost();
        return host.equals("localhost") || host.equals("127.0.0.1") || host.equals("[::1]");
    }

    /** The administrator's token is for this machine's service only; it is never sent anywhere else. */
    private Optional<String> token() {
        if (signedIn != null) {
            return Optional.of(signedIn);
        }
        if (home == null || !isThisMachine(base)) {
            return Optional.empty();
        }
        try {
            return Optional.of(Files.readString(home.resolve(TOKEN_FILE)).strip());
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    private HttpResponse<byte[]> send(HttpRequest request) {
        return send(request, BodyHandlers.ofByteArray());
    }

    private <T> HttpResponse<T> send(HttpRequest request, HttpResponse.BodyHandler<T> handler) {
        try {
            return http.send(request, handler);
        } catch (SSLException e) {
            throw CommandFailure.unreachable("The certificate of " + base
                    + " is not one that can be trusted here; name the file of whoever signed it with --trust.");
        } catch (IOException e) {
            throw CommandFailure.unreachable("No service answers at " + base
                    + "; start one with './tidy demo', or name another with --service.");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw CommandFailure.unreachable("Interrupted while waiting for " + base + ".");
        }
    }

    /** Hands an answer on when it is one of the 200s; otherwise ends the command with its problem in one line. */
    static HttpResponse<byte[]> expectSuccess(HttpResponse<byte[]> response) {
        if (response.statusCode() / 100 != 2) {
            throw CommandFailure.refused(problem(response.statusCode(), response.body()));
        }
        return response;
    }

    static JsonNode json(HttpResponse<byte[]> response) {
        return JSON.readTree(response.body());
    }

    /** JSON of plain maps, lists and texts. */
    static JsonNode tree(Object value) {
        return JSON.valueToTree(value);
    }

    /** Reads JSON that came as text, decimals as they were written. */
    static JsonNode parse(String text) {
        return JSON.readTree(text);
    }

    /** A problem document in one line: status, then what to mend. */
    private static String problem(int status, byte[] bytes) {
        JsonNode body;
        try {
            body = JSON.readTree(bytes);
        } catch (JacksonException e) {
            return status + ": the answer is no problem document; is this the right service?";
        }
        List<String> details = new ArrayList<>();
        for (JsonNode error : body.path("errors")) {
            details.add(error.path("detail").asString());
        }
        String detail = details.isEmpty() ? body.path("detail").asString() : String.join(" ", details);
        return status + " " + body.path("title").asString() + ": " + detail;
    }
}
