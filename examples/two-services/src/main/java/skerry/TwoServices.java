package skerry;

import com.sun.net.httpserver.HttpServer;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.web.CallEvents;
import dev.graphema.web.RequestFilter;
import dev.graphema.web.RequestOptions;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;

/** Two services, each with its own runtime and log; a trace connects their events. */
public final class TwoServices {
    public static void main(String[] arguments) throws IOException, InterruptedException {
        try (Graphema bookingLog = runtime("booking");
                Graphema deckLog = runtime("deck")) {
            HttpServer deck = deck(deckLog.logger("skerry.Deck"));
            HttpServer booking = booking(bookingLog.logger("skerry.Booking"), address(deck, "/lanes"));
            for (String reference : new String[] {"B0047113", "B0047117"}) {
                HttpRequest request = HttpRequest.newBuilder(address(booking, "/book?" + reference))
                        .build();
                HttpResponse<Void> response =
                        HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.discarding());
                System.out.println(reference + ": " + response.statusCode());
            }
            booking.stop(0);
            deck.stop(0);
        }
    }

    private static Graphema runtime(String service) {
        return Graphema.isolated(
                settings -> settings.service(service).file("log", Path.of("logs", service + ".jsonl")));
    }

    /** Lanes are taken by bookings with an odd number. */
    private static HttpServer deck(Logger log) throws IOException {
        HttpServer server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/lanes", exchange -> {
                    boolean isTaken = exchange.getRequestURI().getQuery().endsWith("7");
                    if (isTaken) {
                        log.error(
                                "lane refused",
                                new IllegalStateException("lane A3 is taken"),
                                f -> f.put("lane", "A3"));
                    }
                    exchange.sendResponseHeaders(isTaken ? 409 : 204, -1);
                })
                .getFilters()
                .add(RequestFilter.of(log, RequestOptions.builder().build()));
        server.start();
        return server;
    }

    private static HttpServer booking(Logger log, URI lanes) throws IOException {
        HttpClient calls = new CallEvents(HttpClient.newHttpClient(), log);
        HttpServer server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/book", exchange -> {
                    String reference = exchange.getRequestURI().getQuery();
                    log.info("seat held", f -> f.put("booking", reference));
                    HttpRequest request = HttpRequest.newBuilder(URI.create(lanes + "?" + reference))
                            .build();
                    try {
                        int status = calls.send(request, HttpResponse.BodyHandlers.discarding())
                                .statusCode();
                        exchange.sendResponseHeaders(status, -1);
                    } catch (InterruptedException e) {
                        Thread.currentThread().interrupt();
                    }
                })
                .getFilters()
                .add(RequestFilter.of(log, RequestOptions.builder().build()));
        server.start();
        return server;
    }

    private static URI address(HttpServer server, String path) {
        return URI.create("http://127.0.0.1:" + server.getAddress().getPort() + path);
    }
}
