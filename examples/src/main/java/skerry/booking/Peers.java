package skerry.booking;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.graphema.web.CallEvents;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import skerry.service.Harbour;
import skerry.service.Json;

/** The services that booking calls. */
final class Peers {
    private static final Duration LONGEST_CALL = Duration.ofSeconds(20);

    private final Harbour harbour;
    private final CallEvents calls;

    Peers(Harbour harbour, CallEvents calls) {
        this.harbour = harbour;
        this.calls = calls;
    }

    /** Returns the gate of the sailing. */
    String gate(String sailing) throws IOException, InterruptedException, Refusal {
        HttpRequest request = request("gate", "/boarding/" + sailing).GET().build();
        return answer(request).path("gate").asText();
    }

    /** Reserves a lane for the vehicle. Each instance serves half of the bookings. */
    String lane(String booking, int number, String vehicle, double length)
            throws IOException, InterruptedException, Refusal {
        ObjectNode body =
                Json.object().put("booking", booking).put("vehicle", vehicle).put("length_m", length);
        String instance = number / 2 % 2 == 0 ? "deck-1" : "deck-2";
        return answer(post(instance, "/lanes", body)).path("lane").asText();
    }

    /** Charges the card. */
    void charge(String card, double fare) throws IOException, InterruptedException, Refusal {
        answer(post("bank", "/charges", Json.object().put("card", card).put("amount", fare)));
    }

    private ObjectNode answer(HttpRequest request) throws IOException, InterruptedException, Refusal {
        HttpResponse<String> response = calls.send(request, HttpResponse.BodyHandlers.ofString());
        ObjectNode body = Json.parse(response.body());
        if (response.statusCode() >= 400) {
            throw new Refusal(response.statusCode(), body.path("reason").asText());
        }
        return body;
    }

    private HttpRequest post(String instance, String path, ObjectNode body) throws IOException {
        return request(instance, path)
                .POST(HttpRequest.BodyPublishers.ofString(body.toString()))
                .build();
    }

    private HttpRequest.Builder request(String instance, String path) throws IOException {
        URI address = harbour.address(instance, path);
        return HttpRequest.newBuilder(address).timeout(LONGEST_CALL);
    }
}
