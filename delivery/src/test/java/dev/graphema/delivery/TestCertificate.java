package dev.graphema.delivery;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.Base64;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;

/**
 * A key and its self-signed certificate for 127.0.0.1, created by the JDK's tool.
 *
 * @param authority the certificate in PEM form
 * @param context a server's
 */
record TestCertificate(Path authority, SSLContext context) {
    static TestCertificate make(Path folder) throws Exception {
        Path store = folder.resolve("store.p12");
        Process keytool = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "keytool")
                                .toString(),
                        "-genkeypair",
                        "-alias",
                        "receiver",
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=127.0.0.1",
                        "-ext",
                        "SAN=IP:127.0.0.1",
                        "-validity",
                        "2",
                        "-storetype",
                        "PKCS12",
                        "-keystore",
                        store.toString(),
                        "-storepass",
                        "changeit")
                .redirectErrorStream(true)
                .start();
        String output = new String(keytool.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertEquals(0, keytool.waitFor(), output);
        KeyStore keys = KeyStore.getInstance(store.toFile(), "changeit".toCharArray());
        Path authority = Files.writeString(
                folder.resolve("authority.pem"),
                "-----BEGIN CERTIFICATE-----\n"
                        + Base64.getMimeEncoder()
                                .encodeToString(keys.getCertificate("receiver").getEncoded())
                        + "\n-----END CERTIFICATE-----\n");
        KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        managers.init(keys, "changeit".toCharArray());
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(managers.getKeyManagers(), null, null);
        return new TestCertificate(authority, context);
    }
}
