package tidybridge.demo;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.math.BigInteger;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.security.Signature;
import java.security.interfaces.ECPublicKey;
import java.security.spec.ECGenParameterSpec;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import tools.jackson.databind.json.JsonMapper;

/**
 * A provider of made-up people on loopback, for the demo and the tests: whoever comes chooses who they are. It speaks as much of OpenID
 * Connect as a service needs to sign people in. It proves nothing about anybody, so it is for nothing else.
 */
public final class StandInProvider implements Part {

    /** What the service is known by here. */
    public static final String CLIENT = "tidy-bridge";

    private static final String KEY = "stand-in";
    private static final long LIFE_SECONDS = 300;
    private static final int P256_BYTES = 32;

    /** A made-up person. */
    public record Somebody(String subject, String name, String fullName, List<String> groups) {}

    /** Those there are. */
    public static final List<Somebody> PEOPLE = List.of(
            new Somebody("1001", "tamsin.lock", "Tamsin Lock", List.of("bridge-developers", "canal-walkers")),
            new Somebody("1002", "orrin.weir", "Orrin Weir", List.of("bridge-operators")),
            new Somebody("1003", "pia.towpath", "Pia Towpath", List.of("canal-walkers")));

    private final HttpServer server;
    private final String secret;
    private final KeyPair pair;
    private final Map<String, Asked> codes = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();
    private volatile boolean running = true;

    /** A sign-in that somebody chose to be somebody in. */
    private record Asked(Somebody somebody, String nonce, String challenge, String back) {}

    private StandInProvider(HttpServer server, String secret, KeyPair pair) {
        this.server = server;
        this.secret = secret;
        this.pair = pair;
    }

    /**
     * Starts it on a free port of loopback.
     *
     * @param secret what the service shows it
     */
    public static StandInProvider start(String secret) throws IOException {
        try {
            KeyPairGenerator generator = KeyPairGenerator.getInstance("EC");
            generator.initialize(new ECGenParameterSpec("secp256r1"));
            HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
            StandInProvider provider = new StandInProvider(server, secret, generator.generateKeyPair());
            server.createContext("/", provider::answer);
            server.start();
            return provider;
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has P-256", e);
        }
    }

    /** Its address, as ID tokens name it. */
    public String issuer() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    /** A service's settings for it, as JSON. */
    public String settings(String secretEnv) {
        return JsonMapper.shared()
                .writeValueAsString(Map.of(
                        "tidy",
                        Map.of(
                                "provider",
                                Map.of(
                                        "name",
                                        "Marrowby accounts",
                                        "issuer",
                                        issuer(),
                                        "client",
                                        CLIENT,
                                        "secret-env",
                                        secretEnv,
                                        "groups",
                                        Map.of(
                                                "bridge-developers", "integration-developer",
                                                "bridge-operators", "operator")))));
    }

    private void answer(HttpExchange exchange) throws IOException {
        try {
            switch (exchange.getRequestURI().getPath()) {
                case "/.well-known/openid-configuration" -> send(exchange, 200, "application/json", metadata());
                case "/keys" -> send(exchange, 200, "application/json", keys());
                case "/authorize" -> authorize(exchange);
                case "/token" -> token(exchange);
                default -> send(exchange, 404, "text/plain", "There is nothing here.");
            }
        } catch (GeneralSecurityException e) {
            send(exchange, 500, "text/plain", String.valueOf(e.getMessage()));
        } finally {
            exchange.close();
        }
    }

    private String metadata() {
        Map<String, Object> metadata = new LinkedHashMap<>();
        metadata.put("issuer", issuer());
        metadata.put("authorization_endpoint", issuer() + "/authorize");
        metadata.put("token_endpoint", issuer() + "/token");
        metadata.put("jwks_uri", issuer() + "/keys");
        metadata.put("response_types_supported", List.of("code"));
        metadata.put("subject_types_supported", List.of("public"));
        metadata.put("id_token_signing_alg_values_supported", List.of("ES256"));
        return JsonMapper.shared().writeValueAsString(metadata);
    }

    private String keys() {
        ECPublicKey key = (ECPublicKey) pair.getPublic();
        Map<String, String> jwk = new LinkedHashMap<>();
        jwk.put("kty", "EC");
        jwk.put("crv", "P-256");
        jwk.put("kid", KEY);
        jwk.put("alg", "ES256");
        jwk.put("use", "sig");
        jwk.put("x", coordinate(key.getW().getAffineX()));
        jwk.put("y", coordinate(key.getW().getAffineY()));
        return JsonMapper.shared().writeValueAsString(Map.of("keys", List.of(jwk)));
    }

    private static String coordinate(BigInteger number) {
        byte[] bytes = number.toByteArray();
        byte[] fixed = new byte[P256_BYTES];
        int length = Math.min(bytes.length, P256_BYTES);
        System.arraycopy(bytes, bytes.length - length, fixed, P256_BYTES - length, length);
        return url(fixed);
    }

    /** A page to choose from; the choice goes on as a code. */
    private void authorize(HttpExchange exchange) throws IOException {
        String query = exchange.getRequestURI().getRawQuery();
        Map<String, String> asked = pairs(query == null ? "" : query);
        String back = asked.getOrDefault("redirect_uri", "");
        // it signs anybody in as anybody, so it sends nobody off this machine
        if (!CLIENT.equals(asked.get("client_id"))
                || !"127.0.0.1".equals(URI.create(back).getHost())
                        && !"localhost".equals(URI.create(back).getHost())) {
            send(exchange, 400, "text/plain", "This is a stand-in for services on this machine.");
            return;
        }
        for (Somebody somebody : PEOPLE) {
            if (somebody.subject().equals(asked.get("as"))) {
                byte[] code = new byte[P256_BYTES];
                random.nextBytes(code);
                codes.put(
                        url(code),
                        new Asked(
                                somebody,
                                asked.getOrDefault("nonce", ""),
                                asked.getOrDefault("code_challenge", ""),
                                back));
                exchange.getResponseHeaders()
                        .set(
                                "Location",
                                back + "?code=" + url(code) + "&state=" + encoded(asked.getOrDefault("state", "")));
                exchange.sendResponseHeaders(302, -1);
                return;
            }
        }
        StringBuilder page = new StringBuilder(
                "<!doctype html><title>Marrowby accounts</title><meta name=viewport content='width=device-width'>"
                        + "<style>body{font:16px system-ui;max-width:28em;margin:12vh auto;padding:0 1em}li{margin:.7em 0}</style>"
                        + "<h1>Marrowby accounts</h1><p>A stand-in for the demo: choose who you are.</p><ul>");
        for (Somebody somebody : PEOPLE) {
            page.append("<li><a href='/authorize?")
                    .append(query.replace("&", "&amp;").replace("'", "%27"))
                    .append("&amp;as=")
                    .append(somebody.subject())
                    .append("'>")
                    .append(somebody.fullName())
                    .append("</a> (")
                    .append(String.join(", ", somebody.groups()))
                    .append(")</li>");
        }
        send(exchange, 200, "text/html; charset=utf-8", page + "</ul>");
    }

    private void token(HttpExchange exchange) throws IOException, GeneralSecurityException {
        Map<String, String> form =
                pairs(new String(exchange.getRequestBody().readNBytes(10_000), StandardCharsets.UTF_8));
        String expected = "Basic "
                + Base64.getEncoder().encodeToString((CLIENT + ":" + encoded(secret)).getBytes(StandardCharsets.UTF_8));
        Asked asked = codes.remove(form.getOrDefault("code", ""));
        boolean shown = expected.equals(exchange.getRequestHeaders().getFirst("Authorization"));
        byte[] verifier = form.getOrDefault("code_verifier", "").getBytes(StandardCharsets.US_ASCII);
        String challenge = url(MessageDigest.getInstance("SHA-256").digest(verifier));
        if (!shown
                || asked == null
                || !asked.challenge().equals(challenge)
                || !asked.back().equals(form.get("redirect_uri"))) {
            send(exchange, 400, "application/json", "{\"error\":\"invalid_grant\"}");
            return;
        }
        Map<String, Object> answer = new LinkedHashMap<>();
        answer.put("access_token", "none");
        answer.put("token_type", "Bearer");
        answer.put("expires_in", LIFE_SECONDS);
        answer.put("id_token", idToken(asked));
        send(exchange, 200, "application/json", JsonMapper.shared().writeValueAsString(answer));
    }

    private String idToken(Asked asked) throws GeneralSecurityException {
        long now = Instant.now().getEpochSecond();
        Map<String, Object> claims = new LinkedHashMap<>();
        claims.put("iss", issuer());
        claims.put("sub", asked.somebody().subject());
        claims.put("aud", CLIENT);
        claims.put("iat", now);
        claims.put("exp", now + LIFE_SECONDS);
        claims.put("nonce", asked.nonce());
        claims.put("preferred_username", asked.somebody().name());
        claims.put("name", asked.somebody().fullName());
        claims.put("groups", asked.somebody().groups());
        return sign(claims);
    }

    /** A token of any claims, signed with its key (RFC 7519, ES256); tests make those of their own. */
    public String sign(Map<String, Object> claims) throws GeneralSecurityException {
        String text = url("{\"alg\":\"ES256\",\"kid\":\"" + KEY + "\"}") + "."
                + url(JsonMapper.shared().writeValueAsString(claims));
        Signature signature = Signature.getInstance("SHA256withECDSAinP1363Format");
        signature.initSign(pair.getPrivate());
        signature.update(text.getBytes(StandardCharsets.US_ASCII));
        return text + "." + url(signature.sign());
    }

    private static String url(String text) {
        return url(text.getBytes(StandardCharsets.UTF_8));
    }

    private static String url(byte[] bytes) {
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private static Map<String, String> pairs(String query) {
        Map<String, String> pairs = new LinkedHashMap<>();
        Arrays.stream(query.split("&")).filter(pair -> pair.indexOf('=') > 0).forEach(pair -> {
            int equals = pair.indexOf('=');
            pairs.put(pair.substring(0, equals), URLDecoder.decode(pair.substring(equals + 1), StandardCharsets.UTF_8));
        });
        return pairs;
    }

    private static void send(HttpExchange exchange, int status, String type, String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Content-Type", type);
        exchange.sendResponseHeaders(status, bytes.length);
        exchange.getResponseBody().write(bytes);
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    @Override
    public String ending() {
        return "The stand-in provider ended.";
    }

    @Override
    public void close() {
        running = false;
        server.stop(0);
    }
}
