package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Keys and certificates of tests, made by the JDK's keytool. */
public final class Certificates {
    public static final String PASSWORD = "of-a-test";

    private Certificates() {}

    /** Creates a key with a certificate for 127.0.0.1, which replaces an older one at once. */
    public static Path create(Path file) throws IOException {
        Path next = file.resolveSibling(file.getFileName() + ".new");
        Files.deleteIfExists(next);
        run(
                "-genkeypair",
                "-keyalg",
                "EC",
                "-dname",
                "CN=collector",
                "-ext",
                "san=ip:127.0.0.1,dns:localhost",
                "-validity",
                "30",
                "-alias",
                "collector",
                "-storetype",
                "PKCS12",
                "-storepass",
                PASSWORD,
                "-keystore",
                next.toString());
        Files.move(
                next,
                file,
                java.nio.file.StandardCopyOption.REPLACE_EXISTING,
                java.nio.file.StandardCopyOption.ATOMIC_MOVE);
        return file;
    }

    /** Writes the certificate of a file as PEM. */
    public static Path export(Path file, Path to) throws IOException {
        Files.deleteIfExists(to);
        run(
                "-exportcert",
                "-rfc",
                "-alias",
                "collector",
                "-storepass",
                PASSWORD,
                "-keystore",
                file.toString(),
                "-file",
                to.toString());
        return to;
    }

    private static void run(String... arguments) throws IOException {
        List<String> command = new java.util.ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString()));
        command.addAll(List.of(arguments));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        String output = new String(process.getInputStream().readAllBytes());
        try {
            assertEquals(0, process.waitFor(), output);
        } catch (InterruptedException e) {
            throw new IOException(e);
        }
    }
}
