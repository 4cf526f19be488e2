package tidybridge.core.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class MessageSignatureTest {

    /** RFC 9421, B.2.5. */
    @Test
    void signsAsTheStandardDoes() {
        Map<String, String> components = new LinkedHashMap<>();
        components.put("date", "Tue, 20 Apr 2021 02:07:55 GMT");
        components.put("@authority", "example.com");
        components.put("content-type", "application/json");
        String parameters = MessageSignature.parameters(components, 1_618_884_473, "test-shared-secret");
        byte[] key = Base64.getDecoder()
                .decode("uzvJfB4u3N0Jy4T7NZ75MDVcr8zSTInedJtkgcu46YW4XByzNJjxBdtjUkdJPBtbmHhIDi6pcl8jsasjlTMtDQ==");
        assertThat(MessageSignature.sign(MessageSignature.base(components, parameters), key))
                .isEqualTo("pxcQw6G3AjtMBQjwo8XzkZf/bws5LelbaMk5rGIGtE8=");
    }

    /** RFC 9530, appendix D. */
    @Test
    void digestsAsTheStandardDoes() {
        assertThat(MessageSignature.digest("{\"hello\": \"world\"}\n".getBytes(StandardCharsets.UTF_8)))
                .isEqualTo("sha-256=:RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=:");
    }

    @Test
    void coversMethodAddressTypeAndBody() {
        byte[] body = "{}".getBytes(StandardCharsets.UTF_8);
        Map<String, String> fields = MessageSignature.fields(
                "POST", "https://a.example/in", "application/json", body, new byte[] {1}, "k", 7);
        assertThat(fields.get("Signature-Input"))
                .isEqualTo(
                        "notice=(\"@method\" \"@target-uri\" \"content-type\" \"content-digest\");created=7;keyid=\"k\";alg=\"hmac-sha256\"");
        assertThat(fields.keySet()).containsExactly("Content-Digest", "Signature-Input", "Signature");
        assertThat(MessageSignature.fields(
                                "POST", "https://a.example/out", "application/json", body, new byte[] {1}, "k", 7)
                        .get("Signature"))
                .isNotEqualTo(fields.get("Signature"));
    }

    @Test
    void knowsAddressesThatMeanNothingBesides() {
        for (String good : new String[] {"a@b", "harbour.apps@marrowby.example", "x+y@a-b.example"}) {
            assertThat(MailAddress.isOne(good)).as(good).isTrue();
        }
        for (String bad : new String[] {
            "",
            "a",
            "@b",
            "a@",
            "a b@c",
            "a@b\r\nBcc: c@d",
            "<a@b>",
            "a@b,c@d",
            "\"a\"@b",
            "a@-b",
            "a@b..c",
            "a..b@c",
            "a@" + "b".repeat(64),
            "\u00e4@b"
        }) {
            assertThat(MailAddress.isOne(bad)).as(bad).isFalse();
        }
    }
}
