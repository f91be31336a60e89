package skerry.booking;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.graphema.Logger;
import java.io.IOException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Future;
import skerry.service.Json;

/** Confirms crossings: gate, lane, fare. */
final class BookingDesk {
    private static final Logger log = Logger.of(BookingDesk.class);

    private final Peers peers;
    private final Notices notices;
    private final ExecutorService pool;

    BookingDesk(Peers peers, Notices notices, ExecutorService pool) {
        this.peers = peers;
        this.notices = notices;
        this.pool = pool;
    }

    /** The answer to a confirmed passenger. */
    ObjectNode confirm(String booking, String sailing, ObjectNode wish)
            throws IOException, InterruptedException, Refusal {
        String vehicle = wish.path("vehicle").asText();
        int passengers = wish.path("passengers").asInt();
        log.info("crossing asked for", f -> {
            f.put("vehicle", vehicle).put("passengers", passengers);
            if (wish.has("remark")) {
                f.put("remark", wish.path("remark").asText());
            }
        });
        double fare = log.measure("work out fare", () -> Fares.of(vehicle, passengers));
        log.trace("fare found", f -> f.put("fare", fare));
        Future<String> gate = pool.submit(() -> peers.gate(sailing));
        int number = Integer.parseInt(booking.substring(1));
        log.debug(
                "asking for a lane",
                f -> f.put("length_m", wish.path("length_m").asDouble()));
        String lane = peers.lane(booking, number, vehicle, wish.path("length_m").asDouble());
        String card = wish.path("card").asText();
        log.debug("charging", f -> f.put("card", card).put("fare", fare));
        peers.charge(card, fare);
        String boarding = answer(gate);
        log.info(
                "crossing confirmed",
                f -> f.put("gate", boarding).put("lane", lane).put("fare", fare));
        notices.confirmed(wish.path("email").asText());
        return Json.object().put("gate", boarding).put("lane", lane).put("fare", fare);
    }

    private static String answer(Future<String> asked) throws IOException, InterruptedException, Refusal {
        try {
            return asked.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Refusal refusal) {
                throw refusal;
            }
            throw new IOException("no answer from another service", e.getCause());
        }
    }
}
