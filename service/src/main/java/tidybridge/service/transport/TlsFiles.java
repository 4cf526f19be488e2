package tidybridge.service.transport;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.ssl.SslBundle;
import org.springframework.boot.ssl.SslBundleKey;
import org.springframework.boot.ssl.SslOptions;
import org.springframework.boot.ssl.pem.PemSslStore;
import org.springframework.boot.ssl.pem.PemSslStoreBundle;
import org.springframework.boot.ssl.pem.PemSslStoreDetails;

/**
 * The files of the service's certificate, in PEM (RFC 7468).
 *
 * @param certificate the service's, and behind it those of its issuers
 * @param key the private key (PKCS #8), without a password
 * @param clientAuthorities those whose certificates callers may show; null when callers show none
 */
public record TlsFiles(Path certificate, Path key, @Nullable Path clientAuthorities) {

    private static final SslOptions OPTIONS = SslOptions.of(null, Set.of("TLSv1.3", "TLSv1.2"));
    private static final byte[] PROBE = {1, 2, 3};

    /** Files that cannot be used; the message is one sentence without a full stop. */
    public static final class Unfit extends Exception {
        Unfit(String message) {
            super(message);
        }
    }

    /**
     * Reads and checks them.
     *
     * @throws Unfit with what to mend
     */
    SslBundle read(Instant now) throws Unfit {
        List<X509Certificate> chain = certificates(certificate, "tidy.tls.certificate");
        PrivateKey secret = secret();
        X509Certificate own = chain.getFirst();
        if (!isPair(own.getPublicKey(), secret)) {
            throw new Unfit("the key in " + key + " (tidy.tls.key) is not the one of the first certificate in "
                    + certificate + " (tidy.tls.certificate)");
        }
        if (now.isAfter(own.getNotAfter().toInstant())) {
            throw new Unfit("the certificate in " + certificate + " (tidy.tls.certificate) ended on "
                    + own.getNotAfter().toInstant());
        }
        PemSslStore trusted = clientAuthorities == null
                ? null
                : PemSslStore.of(certificates(clientAuthorities, "tidy.tls.client-authorities"), null);
        return SslBundle.of(new PemSslStoreBundle(PemSslStore.of(chain, secret), trusted), SslBundleKey.NONE, OPTIONS);
    }

    /** What tells one state of the files from the next. */
    int state() throws Unfit {
        int state = Arrays.hashCode(bytes(certificate, "tidy.tls.certificate"))
                + 31 * Arrays.hashCode(bytes(key, "tidy.tls.key"));
        return clientAuthorities == null
                ? state
                : 31 * state + Arrays.hashCode(bytes(clientAuthorities, "tidy.tls.client-authorities"));
    }

    private static byte[] bytes(Path file, String setting) throws Unfit {
        try {
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw new Unfit("the file " + file + " (" + setting + ") cannot be read");
        }
    }

    private static List<X509Certificate> certificates(Path file, String setting) throws Unfit {
        bytes(file, setting);
        List<X509Certificate> read = null;
        try {
            PemSslStore store = PemSslStore.load(PemSslStoreDetails.forCertificate(at(file)));
            read = store == null ? null : store.certificates();
        } catch (RuntimeException e) {
            // what is wrong with it is said below
        }
        if (read == null || read.isEmpty()) {
            throw new Unfit("the file " + file + " (" + setting + ") holds no certificate in PEM");
        }
        return read;
    }

    private PrivateKey secret() throws Unfit {
        bytes(key, "tidy.tls.key");
        try {
            PemSslStore store = PemSslStore.load(
                    PemSslStoreDetails.forCertificate(at(certificate)).withPrivateKey(at(key)));
            PrivateKey read = store == null ? null : store.privateKey();
            if (read != null) {
                return read;
            }
        } catch (RuntimeException e) {
            // the same
        }
        throw new Unfit("the file " + key + " (tidy.tls.key) holds no private key in PEM without a password");
    }

    private static String at(Path file) {
        return file.toAbsolutePath().toUri().toString();
    }

    private static boolean isPair(PublicKey known, PrivateKey secret) {
        String algorithm = switch (secret.getAlgorithm()) {
            case "RSA" -> "SHA256withRSA";
            case "EC" -> "SHA256withECDSA";
            default -> secret.getAlgorithm();
        };
        try {
            Signature signing = Signature.getInstance(algorithm);
            signing.initSign(secret);
            signing.update(PROBE);
            Signature checking = Signature.getInstance(algorithm);
            checking.initVerify(known);
            checking.update(PROBE);
            return checking.verify(signing.sign());
        } catch (GeneralSecurityException e) {
            return false;
        }
    }
}
