package skerry;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.event.Level;
import dev.graphema.platform.PlatformEvents;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.task.TaskExecutor;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** A booking service, which asks itself three times and ends. */
@SpringBootApplication
@RestController
public class Booking {
    private static final Logger log = Logger.of(Booking.class);

    private final TaskExecutor tasks;

    Booking(TaskExecutor tasks) {
        this.tasks = tasks;
    }

    @GetMapping("/bookings/{reference}")
    Map<String, String> booking(@PathVariable("reference") String reference) {
        return Context.with(f -> f.put("booking", reference), () -> {
            log.info("booking read");
            CompletableFuture.runAsync(() -> log.info("lane looked up"), tasks).join();
            if (reference.endsWith("7")) {
                throw new IllegalStateException("lane A3 is taken");
            }
            return Map.of("lane", "A3");
        });
    }

    public static void main(String[] arguments) throws IOException, InterruptedException {
        // Before the framework starts: its first events come before there are beans.
        System.setProperty("org.springframework.boot.logging.LoggingSystem", "none");
        Graphema graphema = Graphema.start();
        PlatformEvents.receive(Level.INFO);

        SpringApplication application = new SpringApplication(Booking.class);
        application.addInitializers(context -> context.getBeanFactory().registerSingleton("graphema", graphema));
        try (ConfigurableApplicationContext context = application.run(arguments)) {
            ask("http://localhost:" + context.getEnvironment().getProperty("local.server.port"));
        }
        graphema.close(); // not needed in a service: what was accepted is written at the end of the process
    }

    private static void ask(String address) throws IOException, InterruptedException {
        for (String path : new String[] {"/bookings/B0047113", "/bookings/B0047117", "/health"}) {
            HttpRequest request =
                    HttpRequest.newBuilder(URI.create(address + path)).build();
            int status = HttpClient.newHttpClient()
                    .send(request, HttpResponse.BodyHandlers.discarding())
                    .statusCode();
            System.out.println(path + ": " + status);
        }
    }
}
