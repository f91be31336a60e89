package dev.graphema.collector.http;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.util.Collections;
import java.util.Objects;

/**
 * The key of a server and its certificates.
 *
 * @param path in PKCS #12 (RFC 7292)
 * @param password its password, which is never shown
 */
public record TlsFile(Path path, String password) {
    public TlsFile {
        Objects.requireNonNull(path, "path");
        Objects.requireNonNull(password, "password");
    }

    /**
     * Reads the file.
     *
     * @throws IOException if that is not possible, or it has no key
     */
    public KeyStore read() throws IOException {
        try (InputStream in = Files.newInputStream(path)) {
            KeyStore store = KeyStore.getInstance("PKCS12");
            store.load(in, password.toCharArray());
            for (String alias : Collections.list(store.aliases())) {
                if (store.isKeyEntry(alias)) {
                    return store;
                }
            }
        } catch (GeneralSecurityException | IOException e) {
            throw new IOException(
                    path + " cannot be read as PKCS #12 with this password: " + e.getMessage()
                            + "; create one with: openssl pkcs12 -export -inkey KEY.pem -in CERTIFICATES.pem -out FILE.p12",
                    e);
        }
        throw new IOException(path + " has no key: expected one with its certificates");
    }

    /** Without the password. */
    @Override
    public String toString() {
        return path.toString();
    }
}
