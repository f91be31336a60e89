package dev.graphema.delivery;

import dev.graphema.option.Option;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.util.Collection;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** The trusted authorities of TLS connections. */
final class Tls {
    static final Option<Path> TRUST = Option.path("tls.trust", "a file of certificates in PEM form")
            .standard(null, "the JDK's")
            .meaning("certificates of trusted authorities, in PEM form");

    private Tls() {}

    /**
     * Returns a context that trusts the authorities in the file.
     *
     * @param trust certificates in PEM form; null for those that the JDK trusts
     * @throws IOException if the file cannot be read or contains no certificate
     */
    static SSLContext context(Path trust) throws IOException {
        try {
            if (trust == null) {
                return SSLContext.getDefault();
            }
            KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
            store.load(null, null);
            int number = 0;
            for (Certificate certificate : certificates(trust)) {
                store.setCertificateEntry("authority-" + number++, certificate);
            }
            if (number == 0) {
                throw new IOException(trust + " holds no certificate: expected one or more in PEM form");
            }
            TrustManagerFactory trusted = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            trusted.init(store);
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(null, trusted.getTrustManagers(), null);
            return context;
        } catch (GeneralSecurityException e) {
            throw new IOException(trust + " cannot be used as tls.trust: " + e.getMessage(), e);
        }
    }

    private static Collection<? extends Certificate> certificates(Path file)
            throws IOException, GeneralSecurityException {
        try (InputStream in = Files.newInputStream(file)) {
            return CertificateFactory.getInstance("X.509").generateCertificates(in);
        }
    }
}
