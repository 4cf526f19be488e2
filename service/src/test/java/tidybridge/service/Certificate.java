package tidybridge.service;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.KeyStore;
import java.security.SecureRandom;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Date;
import javax.net.ssl.KeyManager;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import javax.security.auth.x500.X500Principal;
import org.bouncycastle.asn1.x509.BasicConstraints;
import org.bouncycastle.asn1.x509.Extension;
import org.bouncycastle.asn1.x509.GeneralName;
import org.bouncycastle.asn1.x509.GeneralNames;
import org.bouncycastle.cert.X509v3CertificateBuilder;
import org.bouncycastle.cert.jcajce.JcaX509CertificateConverter;
import org.bouncycastle.cert.jcajce.JcaX509v3CertificateBuilder;
import org.bouncycastle.operator.jcajce.JcaContentSignerBuilder;

/** A certificate made for tests, with its key. */
record Certificate(X509Certificate certificate, KeyPair keys) {

    private static final char[] NO_PASSWORD = {};

    /** One that signs others. */
    static Certificate authority(String subject) throws Exception {
        KeyPair keys = fresh();
        return made(subject, keys, subject, keys, true, Instant.now().plus(Duration.ofDays(30)));
    }

    /** One that is good for a server on this machine, and for a client. */
    Certificate sign(String subject) throws Exception {
        return sign(subject, Instant.now().plus(Duration.ofDays(2)));
    }

    Certificate sign(String subject, Instant endsAt) throws Exception {
        String issuer = certificate.getSubjectX500Principal().getName();
        return made(subject, fresh(), issuer, keys, false, endsAt);
    }

    private static KeyPair fresh() throws Exception {
        KeyPairGenerator generator = KeyPairGenerator.getInstance("EC");
        generator.initialize(256);
        return generator.generateKeyPair();
    }

    private static Certificate made(
            String subject, KeyPair keys, String issuer, KeyPair signing, boolean authority, Instant endsAt)
            throws Exception {
        X509v3CertificateBuilder builder = new JcaX509v3CertificateBuilder(
                new X500Principal(issuer),
                new BigInteger(64, new SecureRandom()),
                Date.from(Instant.now().minus(Duration.ofDays(1))),
                Date.from(endsAt),
                new X500Principal(subject),
                keys.getPublic());
        builder.addExtension(Extension.basicConstraints, true, new BasicConstraints(authority));
        if (!authority) {
            builder.addExtension(Extension.subjectAlternativeName, false, new GeneralNames(new GeneralName[] {
                new GeneralName(GeneralName.dNSName, "localhost"), new GeneralName(GeneralName.iPAddress, "127.0.0.1")
            }));
        }
        return new Certificate(
                new JcaX509CertificateConverter()
                        .getCertificate(builder.build(
                                new JcaContentSignerBuilder("SHA256withECDSA").build(signing.getPrivate()))),
                keys);
    }

    Path writeCertificate(Path file) throws Exception {
        return write(file, "CERTIFICATE", certificate.getEncoded());
    }

    Path writeKey(Path file) throws IOException {
        return write(file, "PRIVATE KEY", keys.getPrivate().getEncoded());
    }

    private static Path write(Path file, String what, byte[] bytes) throws IOException {
        String text = Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(bytes);
        return Files.writeString(file, "-----BEGIN " + what + "-----\n" + text + "\n-----END " + what + "-----\n");
    }

    /**
     * What a caller shows, and whom it trusts.
     *
     * @param shown null for a caller that shows no certificate
     */
    static SSLContext context(Certificate trusted, Certificate shown) throws Exception {
        KeyStore trust = KeyStore.getInstance("PKCS12");
        trust.load(null, null);
        trust.setCertificateEntry("authority", trusted.certificate);
        TrustManagerFactory trusting = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trusting.init(trust);
        KeyManager[] showing = {};
        if (shown != null) {
            KeyStore own = KeyStore.getInstance("PKCS12");
            own.load(null, null);
            own.setKeyEntry("own", shown.keys.getPrivate(), NO_PASSWORD, new X509Certificate[] {shown.certificate});
            KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            managers.init(own, NO_PASSWORD);
            showing = managers.getKeyManagers();
        }
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(showing, trusting.getTrustManagers(), null);
        return context;
    }
}
