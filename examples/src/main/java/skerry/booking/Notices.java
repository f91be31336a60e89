package skerry.booking;

import dev.graphema.Logger;
import dev.graphema.event.Key;
import java.util.concurrent.ThreadFactory;
import skerry.service.Pools;

/** Notifies passengers on a background thread. */
final class Notices {
    private static final Logger log = Logger.of(Notices.class);
    private static final Key<String> EMAIL = Key.text("passenger.email").sensitive("mail");

    private final ThreadFactory threads = Pools.perTask();

    void confirmed(String email) {
        threads.newThread(() -> log.info(
                        "notice sent",
                        f -> f.put("channel", "mail")
                                .put("template", "confirmed")
                                .put(EMAIL, email)))
                .start();
    }
}
