package tidybridge.cli;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManager;
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
    private static final String TOKEN_FILE = "administrator.token";

    private final URI base;
    private final Path home;
    private final HttpClient http;

    Service(URI base, Path home) {
        this.base = base;
        this.home = home;
        HttpClient.Builder builder =
                HttpClient.newBuilder().connectTimeout(CONNECT_LIMIT).version(HttpClient.Version.HTTP_1_1);
        this.http = base.getScheme().equals("http")
                ? builder.sslContext(trustingNobody()).build()
                : builder.build();
    }

    /** Reading the authorities a machine trusts takes longer than the call; without transport security nobody asks for them. */
    private static SSLContext trustingNobody() {
        try {
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(new KeyManager[0], new TrustManager[0], null);
            return context;
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has TLS", e);
        }
    }

    @Override
    public void close() {
        http.shutdownNow();
        http.close();
    }

    /** An address on the service. */
    URI at(String path) {
        return URI.create(base.toString().replaceFirst("/$", "") + path);
    }

    /** Reads from the management API; a problem ends the command. */
    JsonNode desk(String path) {
        return json(expectSuccess(send(deskRequest(path).GET().build())));
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

    /** Calls a module. The administrator's token goes along where it can be read, so that closed modules answer too; without a media type no body is sent. */
    HttpResponse<byte[]> call(
            String method, String path, Map<String, String> headers, @Nullable String mediaType, byte[] body) {
        HttpRequest.Builder request = HttpRequest.newBuilder(at(path)).timeout(ANSWER_LIMIT);
        try {
            headers.forEach(request::setHeader);
        } catch (IllegalArgumentException e) {
            throw CommandFailure.mistyped("One of the header fields cannot be sent; mend its name or value.");
        }
        token().ifPresent(token -> request.header("Authorization", "Bearer " + token));
        if (mediaType == null) {
            return send(
                    request.method(method, HttpRequest.BodyPublishers.noBody()).build());
        }
        request.header("Content-Type", mediaType);
        return send(request.method(method, HttpRequest.BodyPublishers.ofByteArray(body))
                .build());
    }

    private HttpRequest.Builder deskRequest(String path) {
        String token = token().orElseThrow(() -> CommandFailure.refused("The administrator's token cannot be read in "
                + home.resolve(TOKEN_FILE) + "; run this as the service's user, or name the folder with --home."));
        return HttpRequest.newBuilder(at(path)).timeout(ANSWER_LIMIT).header("Authorization", "Bearer " + token);
    }

    /** The token is for this machine's service only; it is never sent anywhere else. */
    private Optional<String> token() {
        String host = base.getHost();
        if (!host.equals("localhost") && !host.equals("127.0.0.1") && !host.equals("[::1]")) {
            return Optional.empty();
        }
        try {
            return Optional.of(Files.readString(home.resolve(TOKEN_FILE)).strip());
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    private HttpResponse<byte[]> send(HttpRequest request) {
        try {
            return http.send(request, BodyHandlers.ofByteArray());
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
            throw CommandFailure.refused(problem(response));
        }
        return response;
    }

    static JsonNode json(HttpResponse<byte[]> response) {
        return JSON.readTree(response.body());
    }

    /** Reads JSON that came as text, decimals as they were written. */
    static JsonNode parse(String text) {
        return JSON.readTree(text);
    }

    /** A problem document in one line: status, then what to mend. */
    private static String problem(HttpResponse<byte[]> response) {
        JsonNode body;
        try {
            body = JSON.readTree(response.body());
        } catch (JacksonException e) {
            return response.statusCode() + ": the answer is no problem document; is this the right service?";
        }
        List<String> details = new ArrayList<>();
        for (JsonNode error : body.path("errors")) {
            details.add(error.path("detail").asString());
        }
        String detail = details.isEmpty() ? body.path("detail").asString() : String.join(" ", details);
        return response.statusCode() + " " + body.path("title").asString() + ": " + detail;
    }
}
