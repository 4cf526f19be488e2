package tidybridge.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;

/** Whose signature of a server's certificate is believed. */
final class Trust {

    private Trust() {}

    /** Reading the authorities a machine trusts takes longer than the call; without transport security nobody asks for them. */
    static SSLContext inNobody() {
        try {
            return context(new TrustManager[0]);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java has TLS", e);
        }
    }

    /** Those whose certificates are in a file, and nobody else. */
    static SSLContext in(Path file) {
        try (InputStream bytes = Files.newInputStream(file)) {
            KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
            store.load(null, null);
            int number = 0;
            for (Certificate certificate :
                    CertificateFactory.getInstance("X.509").generateCertificates(bytes)) {
                store.setCertificateEntry("trusted" + number++, certificate);
            }
            if (number == 0) {
                throw CommandFailure.mistyped("The file " + file + " holds no certificate in PEM.");
            }
            TrustManagerFactory managers = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            managers.init(store);
            return context(managers.getTrustManagers());
        } catch (IOException | GeneralSecurityException e) {
            throw CommandFailure.mistyped("The file " + file + " cannot be read as certificates in PEM.");
        }
    }

    private static SSLContext context(TrustManager[] managers) throws GeneralSecurityException {
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(new KeyManager[0], managers, null);
        return context;
    }
}
