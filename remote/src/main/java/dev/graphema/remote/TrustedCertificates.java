package dev.graphema.remote;

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

/** Certificates that are trusted instead of those of the JDK. */
final class TrustedCertificates {
    private TrustedCertificates() {}

    static SSLContext read(Path file) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            Collection<? extends Certificate> certificates =
                    CertificateFactory.getInstance("X.509").generateCertificates(in);
            if (certificates.isEmpty()) {
                throw new IOException(file + " has no certificates: expected one or more in PEM");
            }
            KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
            store.load(null, null);
            for (Certificate each : certificates) {
                store.setCertificateEntry("certificate" + store.size(), each);
            }
            TrustManagerFactory managers = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            managers.init(store);
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(null, managers.getTrustManagers(), null);
            return context;
        } catch (GeneralSecurityException e) {
            throw new IOException(file + " cannot be read as certificates in PEM: " + e.getMessage(), e);
        }
    }
}
