package skerry.service;

import com.sun.net.httpserver.HttpContext;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpServer;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import dev.graphema.platform.PlatformEvents;
import dev.graphema.web.CallEvents;
import dev.graphema.web.RequestFilter;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.http.HttpClient;
import java.nio.file.Path;
import java.time.Duration;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A running service. Environment variables define its name (SKERRY_INSTANCE), the folder of the run (SKERRY_FOLDER) and
 * its release (SKERRY_RELEASE). It ends with the process.
 */
public final class Service {
    private static final Logger log = Logger.of(Service.class);
    private static final int THREADS = 24;

    private final String instance = environment("SKERRY_INSTANCE", "service");
    private final String release = environment("SKERRY_RELEASE", "2.4.0");
    private final Path folder = Path.of(environment("SKERRY_FOLDER", "."));
    private final Harbour harbour = new Harbour(folder.resolve("run"));
    private final HttpServer server;
    private Graphema graphema;

    private Service() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setExecutor(threads());
    }

    /** Starts Graphema with the settings of the service, and a server. */
    public static Service prepare(String settings) throws IOException {
        // Without it, every small answer waits for the caller's delayed acknowledgement.
        System.setProperty("sun.net.httpserver.nodelay", "true");
        Service service = new Service();
        service.graphema = Graphema.start(service.folder.resolve("settings").resolve(settings + ".yaml"));
        PlatformEvents.receive(Level.WARN);
        PlatformEvents.receiveUncaught();
        return service;
    }

    /** Serves requests to the path. */
    public void serve(String path, HttpHandler handler) {
        HttpContext context = server.createContext(path, exchange -> {
            try (exchange) {
                handler.handle(exchange);
            }
        });
        context.getFilters().add(0, RequestFilter.of(log));
    }

    /**
     * Repeats an action on a thread with this name. At the end of the process, a running action is completed, so that
     * its events reach every sink.
     */
    public void repeat(String thread, Duration pause, Runnable task) {
        ScheduledExecutorService repeating = Executors.newSingleThreadScheduledExecutor(run -> new Thread(run, thread));
        repeating.scheduleAtFixedRate(task, 0, pause.toNanos(), TimeUnit.NANOSECONDS);
        Runtime.getRuntime().addShutdownHook(new Thread(() -> end(repeating)));
    }

    private static void end(ExecutorService executor) {
        executor.shutdown();
        try {
            if (!executor.awaitTermination(5, TimeUnit.SECONDS)) {
                log.warn("a repeated task did not end with the process");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** {@code POST /operator/detail?CONDITION}: more detail about a target, for five minutes. For operators only. */
    private void raiseDetail(HttpExchange exchange) throws IOException {
        try (exchange) {
            Condition target = Condition.parse(exchange.getRequestURI().getQuery());
            graphema.raise(target, Level.TRACE, Duration.ofMinutes(5));
            log.info("detail raised", f -> f.put("target", target.toString()));
            exchange.sendResponseHeaders(204, -1);
        }
    }

    /** Starts to serve requests, and publishes the port. */
    public void start() throws IOException {
        server.createContext("/operator/detail", this::raiseDetail);
        server.start();
        harbour.announce(instance, server.getAddress().getPort());
        log.info("service started", f -> f.put("release", release));
    }

    public String release() {
        return release;
    }

    /** Returns the addresses of the other services. */
    public Harbour harbour() {
        return harbour;
    }

    /** Returns a client whose calls are recorded and carry the correlation. */
    public static CallEvents calls() {
        return new CallEvents(client(), log);
    }

    /** Returns a client for the services. */
    public static HttpClient client() {
        // The services close a connection that has been idle for 30 s: a request that is just then on its way would be
        // lost.
        System.setProperty("jdk.httpclient.keepalive.timeout", "10");
        return HttpClient.newBuilder()
                .version(HttpClient.Version.HTTP_1_1)
                .connectTimeout(Duration.ofSeconds(10))
                .build();
    }

    private ExecutorService threads() {
        AtomicInteger count = new AtomicInteger();
        return Executors.newFixedThreadPool(
                THREADS, task -> new Thread(task, instance + "-" + count.incrementAndGet()));
    }

    private static String environment(String name, String otherwise) {
        String value = System.getenv(name);
        return value == null ? otherwise : value;
    }
}
