package tidybridge.core.notice;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Signs a request over HTTP (RFC 9421) with a key that the receiver knows too, by {@code hmac-sha256}, so that the receiver can tell that it
 * comes from here and that nothing of it was changed.
 */
public final class MessageSignature {

    private static final String HMAC = "HmacSHA256";

    private MessageSignature() {}

    /**
     * The fields that are sent with a body.
     *
     * @param method such as {@code POST}
     * @param target the whole address that is called
     * @param contentType of the body
     * @param keyId names the key to the receiver
     * @param createdSeconds when it is signed, in seconds since 1970
     */
    public static Map<String, String> fields(
            String method,
            String target,
            String contentType,
            byte[] body,
            byte[] key,
            String keyId,
            long createdSeconds) {
        String digest = digest(body);
        Map<String, String> components = new LinkedHashMap<>();
        components.put("@method", method);
        components.put("@target-uri", target);
        components.put("content-type", contentType);
        components.put("content-digest", digest);
        String parameters = parameters(components, createdSeconds, keyId) + ";alg=\"hmac-sha256\"";
        Map<String, String> fields = new LinkedHashMap<>();
        fields.put("Content-Digest", digest);
        fields.put("Signature-Input", "notice=" + parameters);
        fields.put("Signature", "notice=:" + sign(base(components, parameters), key) + ":");
        return fields;
    }

    /** What is said of a body (RFC 9530). */
    static String digest(byte[] body) {
        try {
            return "sha-256=:"
                    + Base64.getEncoder()
                            .encodeToString(MessageDigest.getInstance("SHA-256").digest(body)) + ":";
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** The parameters of a signature over some components, without the algorithm. */
    static String parameters(Map<String, String> components, long createdSeconds, String keyId) {
        String names =
                components.keySet().stream().map(name -> '"' + name + '"').collect(Collectors.joining(" "));
        return "(" + names + ");created=" + createdSeconds + ";keyid=\"" + keyId + '"';
    }

    /** What is signed (RFC 9421, 2.5). */
    static String base(Map<String, String> components, String parameters) {
        List<String> lines = new ArrayList<>();
        components.forEach((name, value) -> lines.add('"' + name + "\": " + value));
        lines.add("\"@signature-params\": " + parameters);
        return String.join("\n", lines);
    }

    /** In Base64. */
    static String sign(String base, byte[] key) {
        try {
            Mac mac = Mac.getInstance(HMAC);
            mac.init(new SecretKeySpec(key, HMAC));
            return Base64.getEncoder().encodeToString(mac.doFinal(base.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has " + HMAC, e);
        }
    }
}
