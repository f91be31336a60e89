package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

class TlsTest {
    @TempDir
    private Path folder;

    private final List<String> problems = new CopyOnWriteArrayList<>();

    private CollectorOptions options(Path key) {
        return CollectorOptions.usual(folder.resolve("store"), problems::add)
                .port(0)
                .tls(key, Certificates.PASSWORD);
    }

    private static CountTable ask(URI address, String token, Path trusted) throws IOException {
        return QueryExecutor.answer(Question.all().counts("level"), RemoteSource.at(address, token, trusted));
    }

    private static boolean isTrusted(URI address, String token, Path trusted) throws IOException {
        return ask(address, token, trusted).coverage().failures().isEmpty();
    }

    @Test
    @Timeout(60)
    void renewedCertificatesAreUsedWithoutARestart() throws Exception {
        Path key = Certificates.create(folder.resolve("collector.p12"));
        Path first = Certificates.export(key, folder.resolve("first.pem"));
        try (Collector collector = Collector.start(options(key))) {
            assertEquals("https", collector.address().getScheme());
            assertTrue(isTrusted(collector.address(), null, first));
            Files.writeString(key, "cut off");
            while (problems.isEmpty()) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
            assertTrue(problems.get(0).startsWith("the certificates are not renewed: "), problems.get(0));
            assertTrue(isTrusted(collector.address(), null, first));
            Certificates.create(key);
            Path second = Certificates.export(key, folder.resolve("second.pem"));
            while (!isTrusted(collector.address(), null, second)) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
            CountTable refused = ask(collector.address(), null, first);
            assertFalse(refused.coverage().failures().isEmpty());
            assertTrue(
                    refused.coverage().toString().contains("its certificate is not trusted"),
                    refused.coverage().toString());
        }
    }

    @Test
    void reachedFromOtherMachinesEverybodyNeedsAToken() throws IOException {
        Path key = Certificates.create(folder.resolve("collector.p12"));
        Path trusted = Certificates.export(key, folder.resolve("collector.pem"));
        try (Collector collector = Collector.start(options(key).host("0.0.0.0"))) {
            URI address = URI.create("https://127.0.0.1:" + collector.port());
            assertTrue(ask(address, null, trusted).coverage().toString().contains("a valid token is needed"));
            String token = new Tokens(folder.resolve("store")).create(Token.of("mara", Role.READ));
            assertTrue(isTrusted(address, token, trusted));
        }
    }

    @Test
    void aWrongFileIsRefused() throws IOException {
        Path key = Files.writeString(folder.resolve("collector.p12"), "no key");
        String message = assertThrows(IOException.class, () -> Collector.start(options(key)))
                .getMessage();
        assertTrue(message.contains("collector.p12 cannot be read as PKCS #12"), message);
        assertTrue(message.contains("openssl pkcs12 -export"), message);
        assertFalse(options(key).summary().toString().contains(Certificates.PASSWORD));
    }
}
