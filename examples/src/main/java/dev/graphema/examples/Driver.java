package dev.graphema.examples;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import skerry.bank.Bank;
import skerry.service.Harbour;
import skerry.service.Json;
import skerry.service.Service;

/**
 * The passengers: a quarter of an hour of the morning of SK-204, in which a scripted minute takes a little more than a
 * second. Deck release 2.4.1 is installed and removed, and one passenger types a card number into the remark.
 */
final class Driver {
    /** A published test number. */
    static final String CARD = "4111111111111111";

    /** Its form in a remark. */
    static final String CARD_IN_REMARK = "4111 1111 1111 1111";

    private static final Duration MINUTE = Duration.ofMillis(1_250);
    private static final int FIRST_BOOKING = 47_100;

    private final SkerryLine line;
    private final Harbour harbour;
    private final Consumer<String> teller;
    private final HttpClient client = Service.client();
    private final List<CompletableFuture<Integer>> sent = new ArrayList<>();
    private int nextBooking = FIRST_BOOKING;

    /** @param teller receives each line of the story */
    Driver(SkerryLine line, Consumer<String> teller) {
        this.line = line;
        this.harbour = line.harbour();
        this.teller = teller;
    }

    /**
     * Sends all requests and waits for the answers.
     *
     * @return the number of requests by status
     */
    Map<Integer, Integer> run() throws IOException, InterruptedException {
        announce(0, "a quiet morning: cars and foot passengers, now and then a coach");
        quietMinutes(4);
        awaitAnswers();
        announce(4, "deck 2.4.1 is released on deck-2; deck-1 stays at 2.4.0");
        line.release("deck-2", "2.4.1");
        quietMinutes(2);
        announce(6, "coaches book for SK-204");
        coachMinutes(6);
        awaitAnswers();
        announce(12, "deck-2 goes back to 2.4.0");
        line.release("deck-2", "2.4.0");
        raiseDetail();
        announce(13, "more coaches");
        coachMinutes(2);
        awaitAnswers();
        Map<Integer, Integer> answers = new TreeMap<>();
        sent.forEach(status -> answers.merge(status.join(), 1, Integer::sum));
        return answers;
    }

    /** Raises detail for the next booking, in all services. */
    private void raiseDetail() throws IOException, InterruptedException {
        String target = "booking = " + reference(nextBooking);
        announce(13, "an operator asks booking for detail where " + target);
        URI address = harbour.address("booking", "/operator/detail");
        HttpRequest request = HttpRequest.newBuilder(URI.create(address + "?"
                        + URLEncoder.encode(target, StandardCharsets.UTF_8).replace("+", "%20")))
                .POST(HttpRequest.BodyPublishers.noBody())
                .build();
        int status =
                client.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
        if (status != 204) {
            throw new IOException("booking answered " + status + " when it was asked for detail");
        }
    }

    private static String reference(int booking) {
        return String.format("B%07d", booking);
    }

    private void quietMinutes(int minutes) throws IOException, InterruptedException {
        for (int i = 0; i < minutes; i++) {
            book("car", 4.5, 2, CARD, null);
            pause(0.3);
            book(
                    "car",
                    4.2,
                    4,
                    i == 1 ? Bank.REFUSED_CARD : CARD,
                    i == 2 ? "please charge " + CARD_IN_REMARK + " and write to ada@mail.example" : null);
            pause(0.3);
            book("coach", 12, 38, CARD, null);
            pause(0.4);
        }
    }

    /** Sends two coaches at a time: of each pair, they start from different sides of the deck in the faulty release. */
    private void coachMinutes(int minutes) throws IOException, InterruptedException {
        for (int i = 0; i < minutes * 2; i++) {
            while (nextBooking % 2 != 0) {
                book("car", 4.5, 2, CARD, null);
            }
            book("coach", 12, 41, CARD, null);
            book("coach", 13.5, 44, CARD, null);
            pause(0.25);
            book("lorry", 9, 1, CARD, null);
            book("car", 4.8, 3, CARD, null);
            pause(0.25);
        }
    }

    private void book(String vehicle, double length, int passengers, String card, String remark) throws IOException {
        ObjectNode wish = Json.object()
                .put("booking", reference(nextBooking++))
                .put("vehicle", vehicle)
                .put("length_m", length)
                .put("passengers", passengers)
                .put("email", "passenger" + nextBooking + "@mail.example")
                .put("card", card);
        if (remark != null) {
            wish.put("remark", remark);
        }
        HttpRequest request = HttpRequest.newBuilder(harbour.address("booking", "/sailings/SK-204/bookings"))
                .timeout(Duration.ofMinutes(5))
                .POST(HttpRequest.BodyPublishers.ofString(wish.toString()))
                .build();
        sent.add(client.sendAsync(request, HttpResponse.BodyHandlers.discarding())
                .thenApply(HttpResponse::statusCode));
    }

    private void awaitAnswers() {
        CompletableFuture.allOf(sent.toArray(new CompletableFuture<?>[0])).join();
    }

    private void announce(int minute, String what) {
        teller.accept(String.format("[story, 07:%02d] %s", minute, what));
    }

    private static void pause(double minutes) throws InterruptedException {
        TimeUnit.NANOSECONDS.sleep((long) (MINUTE.toNanos() * minutes));
    }
}
