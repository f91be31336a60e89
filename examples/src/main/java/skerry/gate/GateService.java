package skerry.gate;

import com.sun.net.httpserver.HttpExchange;
import dev.graphema.Logger;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import skerry.service.Json;
import skerry.service.Service;

/** {@code GET /boarding/SAILING} returns the gate of a sailing; the scanner of each gate sends heartbeats. */
public final class GateService {
    private static final Logger log = Logger.of(GateService.class);
    private static final Logger scanners = Logger.named("skerry.gate.scanners");
    private static final List<String> GATES = List.of("gate-1", "gate-2", "gate-3");
    private static final Duration HEARTBEAT = Duration.ofMillis(20);

    private GateService() {}

    public static void main(String[] arguments) throws IOException {
        Service service = Service.prepare("gate");
        service.serve("/boarding", GateService::boarding);
        service.start();
        Random battery = new Random(7);
        service.repeat("scanners", HEARTBEAT, () -> heartbeats(battery));
    }

    private static void heartbeats(Random battery) {
        for (String gate : GATES) {
            scanners.info("heartbeat", f -> f.put("gate", gate).put("battery", 40 + battery.nextInt(60)));
        }
    }

    private static void boarding(HttpExchange exchange) throws IOException {
        String sailing = exchange.getRequestURI().getPath().substring("/boarding/".length());
        String gate = GATES.get(Math.floorMod(sailing.hashCode(), GATES.size()));
        log.info("boarding open", f -> f.put("sailing", sailing).put("gate", gate));
        Json.answer(exchange, 200, Json.object().put("gate", gate));
    }
}
