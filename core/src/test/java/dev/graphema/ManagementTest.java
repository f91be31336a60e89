package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.sink.Sink;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import javax.management.JMX;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import org.junit.jupiter.api.Test;

class ManagementTest {
    private final MBeanServer server = ManagementFactory.getPlatformMBeanServer();

    @Test
    void countsLossesAndTroublesAreShownUntilTheEnd() throws Exception {
        Sink broken = new Sink() {
            @Override
            public void write(Event event) throws IOException {
                if (event.message().equals("bad")) {
                    throw new IllegalStateException("torn");
                }
            }
        };
        try (Graphema graphema = Graphema.isolated(settings ->
                settings.service("management test").instance("deck-1").sink("paper", broken))) {
            graphema.logger("skerry").info("good");
            graphema.logger("skerry").warn("bad");
            graphema.flush(Duration.ofSeconds(10));

            GraphemaMXBean shown = JMX.newMXBeanProxy(server, names().iterator().next(), GraphemaMXBean.class);
            assertEquals("management test", shown.getService());
            assertEquals("deck-1", shown.getInstance());
            assertTrue(!Instant.parse(shown.getSince()).isAfter(Instant.now()));
            assertEquals(graphema.accepted(), shown.getAccepted());
            assertEquals(0, shown.getLate());
            assertEquals(Map.of("paper", Map.of("warn", 1L)), shown.getLost());
            assertEquals(graphema.written(), shown.getWritten());
            assertTrue(shown.getTroubles().get("paper").contains("torn"), shown.getTroubles()::toString);
        }
        assertEquals(Set.of(), names());
    }

    private Set<ObjectName> names() throws Exception {
        return server.queryNames(new ObjectName("dev.graphema:type=Graphema,service=\"management test\",*"), null);
    }
}
