package skerry.booking;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.net.httpserver.HttpExchange;
import dev.graphema.Context;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.Scope;
import java.io.IOException;
import skerry.service.Json;
import skerry.service.Pools;
import skerry.service.Service;

/** {@code POST /sailings/SAILING/bookings}: confirms a crossing. */
public final class BookingService {
    private static final Logger log = Logger.of(BookingService.class);

    private final BookingDesk desk;

    BookingService(BookingDesk desk) {
        this.desk = desk;
    }

    public static void main(String[] arguments) throws IOException {
        Service service = Service.prepare("booking");
        BookingDesk desk =
                new BookingDesk(new Peers(service.harbour(), Service.calls()), new Notices(), Pools.pooled(8));
        service.serve("/sailings", new BookingService(desk)::confirm);
        service.start();
    }

    void confirm(HttpExchange exchange) throws IOException {
        String[] path = exchange.getRequestURI().getPath().split("/");
        if (path.length != 4 || !path[3].equals("bookings")) {
            Json.refuse(exchange, 404, "expected /sailings/SAILING/bookings");
            return;
        }
        String sailing = path[2];
        ObjectNode wish = Json.read(exchange);
        String booking = wish.path("booking").asText();
        // Set once, here: every event of this request has both fields, also in called services. The event of the
        // request
        // itself is emitted at its end, outside of this scope.
        Operation.current().put("booking", booking).put("sailing", sailing);
        try (Scope scope = Context.open(f -> f.put("booking", booking).put("sailing", sailing))) {
            confirm(exchange, booking, sailing, wish);
        }
    }

    private void confirm(HttpExchange exchange, String booking, String sailing, ObjectNode wish) throws IOException {
        ObjectNode confirmed;
        try {
            confirmed = desk.confirm(booking, sailing, wish);
        } catch (Refusal e) {
            log.warn("crossing refused", f -> f.put("reason", e.getMessage()));
            Json.refuse(exchange, e.status(), e.getMessage());
            return;
        } catch (IOException e) {
            // Without a response, the caller could not distinguish it from an idle connection that was closed.
            log.error("a service did not answer", e);
            Json.refuse(exchange, 503, "a service that is needed did not answer");
            return;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            Json.refuse(exchange, 503, "the service is ending");
            return;
        }
        Json.answer(exchange, 201, confirmed);
    }
}
