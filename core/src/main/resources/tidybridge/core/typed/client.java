// /*ABOUT*/
// Made from what is live. Get it anew when the module has news; what is gone or changed then shows when you compile.
// It needs nothing but Java 21 and newer. Put it into a package of yours with a 'package' line.

import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpHeaders;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;

/** Calls the module. Every method throws {@link ProblemException} for anything but what was hoped for. Thread-safe. */
public final class /*CLIENT*/ {
    private final HttpClient http;
    private final String base;
    private final Supplier<String> credential;

    /** For calls that are anybody's. */
    public /*CLIENT*/() {
        this(() -> null);
    }

    /**
     * For calls with a credential.
     *
     * @param credential gets a key or a token for each call
     */
    public /*CLIENT*/(Supplier<String> credential) {
        this(HttpClient.newHttpClient(), "/*BASE*/", credential);
    }

    /**
     * For calls that are sent in a way of their own.
     *
     * @param base where the module is
     * @param credential gets a key or a token for each call, or null
     */
    public /*CLIENT*/(HttpClient http, String base, Supplier<String> credential) {
        this.http = http;
        this.base = base;
        this.credential = credential;
    }

/*METHODS*/
    private <T> Reply<T> call(String method, String path, Input input, String after, Function<byte[], T> read)
            throws IOException, InterruptedException {
        StringBuilder query = new StringBuilder();
        StringBuilder cookies = new StringBuilder();
        Map<String, Object> said = new LinkedHashMap<>(input.said);
        if (after != null) {
            said.put("query after", after);
        }
        HttpRequest.Builder request = HttpRequest.newBuilder();
        said.forEach((place, value) -> {
            String name = place.substring(place.indexOf(' ') + 1);
            if (place.startsWith("query ")) {
                pairs(name, value, query);
            } else if (place.startsWith("header ")) {
                request.setHeader(name, String.valueOf(value));
            } else if (place.startsWith("cookie ")) {
                cookies.append(cookies.length() == 0 ? "" : "; ").append(name).append("=").append(encoded(value));
            }
        });
        request.uri(URI.create(base + path + (query.length() == 0 ? "" : "?" + query)));
        request.setHeader("Accept", "application/json, */*;q=0.1");
        String secret = credential.get();
        if (secret != null) {
            request.setHeader("Authorization", "Bearer " + secret);
        }
        if (cookies.length() > 0) {
            request.setHeader("Cookie", cookies.toString());
        }
        if (input.body == null) {
            request.method(method, HttpRequest.BodyPublishers.noBody());
        } else {
            request.setHeader("Content-Type", input.mediaType);
            request.method(method, HttpRequest.BodyPublishers.ofString(text(input)));
        }
        HttpResponse<byte[]> response = http.send(request.build(), HttpResponse.BodyHandlers.ofByteArray());
        if (response.statusCode() >= 300) {
            throw ProblemException.of(response);
        }
        T body = response.body().length == 0 ? null : read.apply(response.body());
        return new Reply<>(body, response.statusCode(), response.headers());
    }

    private static String text(Input input) {
        if (!input.mediaType.equals("application/x-www-form-urlencoded")) {
            return Json.write(input.body);
        }
        StringBuilder form = new StringBuilder();
        ((Sent) input.body).values.forEach((name, value) -> pairs(name, value, form));
        return form.toString();
    }

    private static void pairs(String name, Object value, StringBuilder pairs) {
        for (Object one : value instanceof List<?> list ? list : java.util.Arrays.asList(value)) {
            if (one != null) {
                pairs.append(pairs.length() == 0 ? "" : "&").append(encoded(name)).append("=").append(encoded(one));
            }
        }
    }

    private static String encoded(Object value) {
        return URLEncoder.encode(String.valueOf(value), StandardCharsets.UTF_8).replace("+", "%20");
    }

    /**
     * What was answered.
     *
     * @param body null where nothing is answered
     */
    public record Reply<T>(T body, int status, HttpHeaders headers) {

        /** The state that was read or made, for If-Match; null where none is told. */
        public String etag() {
            return headers.firstValue("ETag").orElse(null);
        }
    }

    /** Anything but what was hoped for (RFC 9457). Quote its request id to the owner of the module. */
    public static final class ProblemException extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final int status;
        private final String code;
        private final String requestId;
        private final transient Map<String, Object> problem;

        private ProblemException(int status, Map<String, Object> problem) {
            super(status + " " + problem.get("title") + ": " + problem.get("detail"));
            this.status = status;
            this.problem = problem;
            this.code = String.valueOf(problem.get("code"));
            this.requestId = problem.get("requestId") instanceof String id ? id : null;
        }

        /** What stands between may answer something of its own. */
        private static ProblemException of(HttpResponse<byte[]> response) {
            String text = new String(response.body(), StandardCharsets.UTF_8);
            try {
                if (Json.parse(response.body()) instanceof Map<?, ?> read && read.containsKey("code")) {
                    return new ProblemException(response.statusCode(), Json.object(read));
                }
            } catch (IllegalArgumentException e) {
                // no JSON
            }
            Map<String, Object> problem = new LinkedHashMap<>();
            problem.put("title", "No answer of the service");
            problem.put("detail", text.substring(0, Math.min(200, text.length())));
            problem.put("code", "unknown");
            return new ProblemException(response.statusCode(), problem);
        }

        public int status() {
            return status;
        }

        /** What kind of problem it is, as the reference lists them. */
        public String code() {
            return code;
        }

        /** Null where the service was not reached. */
        public String requestId() {
            return requestId;
        }

        /** The whole document. */
        public Map<String, Object> problem() {
            return problem;
        }
    }

    /** What a call is told. */
    public abstract static class Input {
        private final Map<String, Object> said = new LinkedHashMap<>();
        private String mediaType = "";
        private Object body;

        private Input() {}

        final void say(String place, Object value) {
            if (value == null) {
                said.remove(place);
            } else {
                said.put(place, value);
            }
        }

        final void send(String type, Object value) {
            mediaType = type;
            body = value;
        }

        final String segment(String name) {
            return encoded(said.get("path " + name));
        }
    }

    private static final class Nothing extends Input {}

    private static final Input NOTHING = new Nothing();

    /** A part of a body. */
    public abstract static class Sent {
        private final Map<String, Object> values = new LinkedHashMap<>();

        private Sent() {}

        final void put(String name, Object value) {
            values.put(name, value);
        }
    }

/*TYPES*/
    /** Reads and writes JSON (RFC 8259): objects as maps, numbers as they are written. */
    private static final class Json {
        private static final int DEEPEST = 500;
        private final String text;
        private int at;
        private int depth;

        private Json(String text) {
            this.text = text;
        }

        static <T> Function<byte[], T> as(Function<Object, T> made) {
            return bytes -> made.apply(parse(bytes));
        }

        static Object parse(byte[] bytes) {
            Json json = new Json(new String(bytes, StandardCharsets.UTF_8));
            Object value = json.value();
            json.space();
            if (json.at < json.text.length()) {
                throw json.broken();
            }
            return value;
        }

        @SuppressWarnings("unchecked")
        static Map<String, Object> object(Object value) {
            return (Map<String, Object>) value;
        }

        static <T> T of(Object value, Function<Object, T> made) {
            return value == null ? null : made.apply(value);
        }

        static <T> List<T> list(Object value, Function<Object, T> made) {
            if (value == null) {
                return null;
            }
            List<T> list = new ArrayList<>();
            for (Object one : (List<?>) value) {
                list.add(of(one, made));
            }
            return list;
        }

        static Long whole(Object value) {
            return ((BigDecimal) value).longValueExact();
        }

        static BigInteger integer(Object value) {
            return ((BigDecimal) value).toBigIntegerExact();
        }

        private IllegalArgumentException broken() {
            return new IllegalArgumentException("The answer is no JSON at character " + at + ".");
        }

        private void space() {
            while (at < text.length() && " \t\r\n".indexOf(text.charAt(at)) >= 0) {
                at++;
            }
        }

        private boolean take(char letter) {
            space();
            if (at < text.length() && text.charAt(at) == letter) {
                at++;
                return true;
            }
            return false;
        }

        private Object value() {
            if (++depth > DEEPEST) {
                throw broken();
            }
            Object value = take('{') ? members() : take('[') ? items() : take('"') ? string() : word();
            depth--;
            return value;
        }

        private Map<String, Object> members() {
            Map<String, Object> members = new LinkedHashMap<>();
            if (take('}')) {
                return members;
            }
            do {
                if (!take('"')) {
                    throw broken();
                }
                String name = string();
                if (!take(':')) {
                    throw broken();
                }
                members.put(name, value());
            } while (take(','));
            if (!take('}')) {
                throw broken();
            }
            return members;
        }

        private List<Object> items() {
            List<Object> items = new ArrayList<>();
            if (take(']')) {
                return items;
            }
            do {
                items.add(value());
            } while (take(','));
            if (!take(']')) {
                throw broken();
            }
            return items;
        }

        private String string() {
            StringBuilder string = new StringBuilder();
            while (at < text.length()) {
                char letter = text.charAt(at++);
                if (letter == '"') {
                    return string.toString();
                }
                string.append(letter == '\\' ? escaped() : letter);
            }
            throw broken();
        }

        private char escaped() {
            char letter = at < text.length() ? text.charAt(at++) : ' ';
            switch (letter) {
                case 'n':
                    return '\n';
                case 't':
                    return '\t';
                case 'r':
                    return '\r';
                case 'b':
                    return '\b';
                case 'f':
                    return '\f';
                case 'u':
                    at += 4;
                    if (at > text.length()) {
                        throw broken();
                    }
                    return (char) Integer.parseInt(text.substring(at - 4, at), 16);
                default:
                    return letter;
            }
        }

        private Object word() {
            int from = at;
            while (at < text.length() && ",]} \t\r\n".indexOf(text.charAt(at)) < 0) {
                at++;
            }
            String word = text.substring(from, at);
            return switch (word) {
                case "true" -> Boolean.TRUE;
                case "false" -> Boolean.FALSE;
                case "null" -> null;
                default -> new BigDecimal(word);
            };
        }

        static String write(Object value) {
            StringBuilder out = new StringBuilder();
            write(value, out);
            return out.toString();
        }

        private static void write(Object value, StringBuilder out) {
            if (value instanceof Sent sent) {
                write(sent.values, out);
            } else if (value instanceof Map<?, ?> map) {
                String between = "{";
                for (Map.Entry<?, ?> entry : map.entrySet()) {
                    out.append(between);
                    quote(String.valueOf(entry.getKey()), out);
                    out.append(':');
                    write(entry.getValue(), out);
                    between = ",";
                }
                out.append(map.isEmpty() ? "{}" : "}");
            } else if (value instanceof Iterable<?> list) {
                String between = "[";
                for (Object one : list) {
                    out.append(between);
                    write(one, out);
                    between = ",";
                }
                out.append(between.equals("[") ? "[]" : "]");
            } else if (value == null || value instanceof Number || value instanceof Boolean) {
                out.append(value);
            } else {
                quote(value.toString(), out);
            }
        }

        private static void quote(String string, StringBuilder out) {
            out.append('"');
            for (int i = 0; i < string.length(); i++) {
                char letter = string.charAt(i);
                if (letter == '"' || letter == '\\') {
                    out.append('\\').append(letter);
                } else if (letter < ' ') {
                    out.append(String.format("\\u%04x", (int) letter));
                } else {
                    out.append(letter);
                }
            }
            out.append('"');
        }
    }
}
