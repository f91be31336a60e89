package dev.graphema.management;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.MemorySink;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkStatus;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.management.JMX;
import javax.management.MBeanParameterInfo;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import org.junit.jupiter.api.Test;

class ManagementTest {
    private final MBeanServer server = ManagementFactory.getPlatformMBeanServer();

    @Test
    void countsLossesAndErrorsAreShownUntilTheEnd() throws Exception {
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

            GraphemaMXBean shown = JMX.newMXBeanProxy(server, shown(), GraphemaMXBean.class);
            assertEquals("management test", shown.getService());
            assertEquals("deck-1", shown.getInstance());
            assertTrue(!Instant.parse(shown.getSince()).isAfter(Instant.now()));
            assertEquals(graphema.accepted(), shown.getAccepted());
            assertEquals(0, shown.getLate());
            assertEquals(Map.of("paper", Map.of("warn", 1L)), shown.getLost());
            assertEquals(graphema.written(), shown.getWritten());
            assertEquals(Map.of(), shown.getErrors(), "it has written again since");
            assertTrue(shown.isHealthy());
            SinkState paper = shown.getSinks().get("paper");
            assertTrue(paper.isWorking());
            assertEquals(1, paper.getLost());
            assertEquals(graphema.written().get("paper"), paper.getWritten());
            assertEquals(0, paper.getQueuedBytes());
            assertEquals(0, paper.getOldestSeconds());
            assertEquals("", paper.getError());
            assertEquals(0, shown.getRefused());
            assertEquals(0, shown.getWithheld());
        }
        assertEquals(Set.of(), names());
    }

    @Test
    void aSinkThatCannotWriteIsNotHealthyUntilItCan() throws Exception {
        AtomicBoolean isBroken = new AtomicBoolean(true);
        Sink sink = event -> {
            if (isBroken.get()) {
                throw new IOException("no paper");
            }
        };
        try (Graphema graphema =
                Graphema.isolated(settings -> settings.synchronous(true).sink("paper", sink))) {
            Instant started = graphema.sinks().get("paper").since();
            assertTrue(graphema.isHealthy());
            graphema.logger("skerry").warn("lane taken");
            SinkStatus status = graphema.sinks().get("paper");
            assertFalse(graphema.isHealthy());
            assertFalse(status.working());
            assertTrue(status.error().contains("no paper"), status.error());
            assertEquals(Map.of(Level.WARN, 1L), status.lost());
            assertFalse(status.since().isBefore(started));
            isBroken.set(false);
            graphema.logger("skerry").warn("lane taken");
            assertTrue(graphema.isHealthy());
            assertEquals(1, graphema.sinks().get("paper").written());
        }
    }

    @Test
    void parametersOfOperationsHaveNamesWithUnits() throws Exception {
        try (Graphema graphema = Graphema.isolated(
                settings -> settings.service("management test").sink("memory", new MemorySink()))) {
            String operation = Arrays.stream(server.getMBeanInfo(shown()).getOperations())
                    .filter(each -> each.getName().equals("setThreshold"))
                    .map(each -> Arrays.stream(each.getSignature())
                            .map(MBeanParameterInfo::getName)
                            .toList()
                            .toString())
                    .findFirst()
                    .orElseThrow();
            assertEquals("[branch, level, seconds]", operation);
        }
    }

    @Test
    void thresholdsAreSetAndExplainedFromOutside() throws Exception {
        MemorySink sink = new MemorySink();
        try (Graphema graphema = Graphema.isolated(
                settings -> settings.service("management test").sink("memory", sink))) {
            GraphemaMXBean shown = JMX.newMXBeanProxy(server, shown(), GraphemaMXBean.class);
            assertEquals("info", shown.threshold("skerry.deck"));
            shown.setThreshold("skerry", "debug", 600);
            assertEquals("debug", shown.threshold("skerry.deck"));
            assertTrue(shown.getByHand().get(0).startsWith("skerry from debug on, until "));
            assertTrue(shown.explain("skerry.deck", "debug", "lane=A3").contains("set at run time for skerry until"));
            assertTrue(shown.resetThreshold("skerry"));
            shown.raise("booking = B0047113", "trace", 600);
            assertTrue(shown.getByHand().get(0).startsWith("where booking = B0047113, from trace on, until "));
            shown.resetByHand();
            assertEquals(List.of(), shown.getByHand());
            assertTrue(shown.getSettings().contains("service: management test"), shown.getSettings());
            assertEquals("", shown.getLastRefusal());
            RuntimeException wrong =
                    assertThrows(RuntimeException.class, () -> shown.setThreshold("skerry", "debgu", 600));
            assertTrue(
                    String.valueOf(wrong.getCause()).contains("did you mean debug?")
                            || wrong.getMessage().contains("did you mean debug?"),
                    wrong::toString);
        }
    }

    /** A runtime is shown soon after its start. */
    private ObjectName shown() throws Exception {
        await().atMost(Duration.ofMinutes(2)).until(() -> !names().isEmpty());
        return names().iterator().next();
    }

    private Set<ObjectName> names() throws Exception {
        return server.queryNames(new ObjectName("dev.graphema:type=Graphema,service=\"management test\",*"), null);
    }
}
