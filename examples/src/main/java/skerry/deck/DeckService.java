package skerry.deck;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import skerry.service.Json;
import skerry.service.Service;

/** {@code POST /lanes} with vehicle, length and booking: finds room on the vehicle deck. */
public final class DeckService {
    private final Lanes lanes;

    private DeckService(Lanes lanes) {
        this.lanes = lanes;
    }

    public static void main(String[] arguments) throws IOException {
        Service service = Service.prepare("deck");
        DeckService deck = new DeckService(new Lanes(LockOrder.in(service.release())));
        service.serve("/lanes", deck::reserve);
        service.start();
    }

    private void reserve(HttpExchange exchange) throws IOException {
        ObjectNode request = Json.read(exchange);
        String booking = request.path("booking").asText();
        try {
            String lane = lanes.reserve(
                    request.path("vehicle").asText(),
                    request.path("length_m").asDouble(),
                    Integer.parseInt(booking.substring(1)));
            Json.answer(exchange, 200, Json.object().put("lane", lane));
        } catch (LaneTimeoutException e) {
            Json.refuse(exchange, 503, "the deck is busy");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            Json.refuse(exchange, 503, "the service is ending");
        }
    }
}
