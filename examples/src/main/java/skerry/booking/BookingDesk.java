package skerry.booking;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.graphema.Logger;
import java.io.IOException;
import skerry.service.Json;

/** Confirms crossings: a gate, a place on the deck, the fare. */
final class BookingDesk {
    private static final Logger log = Logger.of(BookingDesk.class);

    private final Peers peers;

    BookingDesk(Peers peers) {
        this.peers = peers;
    }

    /** The answer to a passenger who is sure. */
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
        String gate = peers.gate(sailing);
        int number = Integer.parseInt(booking.substring(1));
        String lane = peers.lane(booking, number, vehicle, wish.path("length_m").asDouble());
        double fare = log.measure("work out fare", () -> Fares.of(vehicle, passengers));
        String card = wish.path("card").asText();
        log.debug("charging", f -> f.put("card", card).put("fare", fare));
        peers.charge(card, fare);
        log.info(
                "crossing confirmed", f -> f.put("gate", gate).put("lane", lane).put("fare", fare));
        return Json.object().put("gate", gate).put("lane", lane).put("fare", fare);
    }
}
