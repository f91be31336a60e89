package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Assumptions;

/** A real web server that writes an access log. */
final class Nginx implements AutoCloseable {
    private static final Path PROGRAM = Path.of("/usr/sbin/nginx");

    private final HttpClient http = HttpClient.newHttpClient();
    private final Path settings;
    private final int port;

    private Nginx(Path settings, int port) {
        this.settings = settings;
        this.port = port;
    }

    static void assumeInstalled() {
        Assumptions.assumeTrue(Files.isExecutable(PROGRAM), "there is no nginx here: install the package nginx-light");
    }

    static Nginx start(Path folder, Path access) throws Exception {
        Files.createDirectories(folder);
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        Path settings = Files.writeString(folder.resolve("nginx.conf"), """
                pid %1$s/nginx.pid;
                error_log %1$s/error.log;
                worker_processes 1;
                events {}
                http {
                  client_body_temp_path %1$s/a; proxy_temp_path %1$s/b; fastcgi_temp_path %1$s/c; uwsgi_temp_path %1$s/d; scgi_temp_path %1$s/e;
                  access_log %2$s combined;
                  server { listen 127.0.0.1:%3$d; location / { return 204; } }
                }
                """.formatted(folder, access, port));
        Nginx nginx = new Nginx(settings, port);
        nginx.run();
        return nginx;
    }

    private void run(String... signal) throws IOException, InterruptedException {
        String[] command = signal.length == 0
                ? new String[] {PROGRAM.toString(), "-c", settings.toString()}
                : new String[] {PROGRAM.toString(), "-c", settings.toString(), "-s", signal[0]};
        assertEquals(0, new ProcessBuilder(command).inheritIO().start().waitFor());
    }

    void request(String path) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .build();
        assertEquals(204, http.send(request, BodyHandlers.discarding()).statusCode());
    }

    /** Lets it open its log again, and waits until it has done so. */
    void reopen() throws Exception {
        run("reopen");
        TimeUnit.MILLISECONDS.sleep(300);
    }

    @Override
    public void close() throws Exception {
        run("quit");
    }
}
