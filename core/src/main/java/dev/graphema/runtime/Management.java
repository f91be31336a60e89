package dev.graphema.runtime;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.condition.Condition;
import dev.graphema.event.Level;
import dev.graphema.explain.FieldsText;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.holdback.HoldBack;
import dev.graphema.management.GraphemaMXBean;
import dev.graphema.management.SinkState;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.settings.SettingsWriter;
import dev.graphema.sink.SinkStatus;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;

/** Registers a runtime with JMX until it is closed. Does nothing in a program without JMX. */
public final class Management implements GraphemaMXBean {
    private static final String NOT_SHOWN = "JMX will not show the runtime: ";

    private final Pipeline pipeline;
    private final Engine engine;
    private final String name;
    private boolean isShown;
    private boolean isOver;

    private Management(Engine engine, String name) {
        this.engine = engine;
        this.pipeline = engine.pipeline();
        this.name = name;
    }

    /**
     * Registers the runtime in the background, because starting the beans of the platform takes longer than starting
     * Graphema.
     */
    public static Management show(Engine engine) {
        String service = Objects.requireNonNullElse(engine.settings().service(), "none");
        Management management = new Management(
                engine,
                "dev.graphema:type=Graphema,service=" + ObjectName.quote(service) + ",run="
                        + engine.pipeline().run());
        BackgroundThreads.daemon(
                        "graphema-management",
                        () -> FailurePolicy.inBackground(
                                management::show, problem -> management.pipeline.report(NOT_SHOWN + problem)))
                .start();
        return management;
    }

    private void show() {
        try {
            MBeanServer server = server();
            synchronized (this) {
                if (!isOver) {
                    server.registerMBean(new NamedParameters(this), new ObjectName(name));
                    isShown = true;
                }
            }
        } catch (JMException | SecurityException e) {
            pipeline.report(NOT_SHOWN + e);
        }
    }

    /** Undoes {@link #show}. A second call has no effect. */
    public synchronized void hide() {
        isOver = true;
        if (isShown) {
            isShown = false;
            try {
                server().unregisterMBean(new ObjectName(name));
            } catch (InstanceNotFoundException e) {
                return; // somebody else did it
            } catch (JMException | SecurityException e) {
                pipeline.report("JMX goes on showing the runtime: " + e);
            }
        }
    }

    private static MBeanServer server() {
        return ManagementFactory.getPlatformMBeanServer();
    }

    @Override
    public String getService() {
        return Objects.requireNonNullElse(engine.settings().service(), "");
    }

    @Override
    public String getInstance() {
        return Objects.requireNonNullElse(engine.settings().instance(), "");
    }

    @Override
    public String getSince() {
        return engine.since().toString();
    }

    @Override
    public long getAccepted() {
        return pipeline.accepted();
    }

    @Override
    public long getLate() {
        return pipeline.late();
    }

    @Override
    public long getRefused() {
        return engine.refused();
    }

    @Override
    public long getWithheld() {
        return pipeline.withheld();
    }

    @Override
    public Map<String, Long> getDroppedBySampling() {
        return engine.droppedBySampling();
    }

    @Override
    public Map<String, Long> getHeld() {
        HoldBack.Held held = pipeline.held();
        Map<String, Long> counts = new LinkedHashMap<>();
        counts.put("groups", (long) held.groups());
        counts.put("events", held.events());
        counts.put("bytes", held.bytes());
        counts.put("released", held.released());
        counts.put("vanished", held.vanished());
        counts.put("evicted", held.evicted());
        return counts;
    }

    @Override
    public Map<String, Long> getWritten() {
        return pipeline.written();
    }

    @Override
    public Map<String, Map<String, Long>> getLost() {
        Map<String, Map<String, Long>> lost = new LinkedHashMap<>();
        pipeline.lost().forEach((sink, byLevel) -> {
            Map<String, Long> counts = new LinkedHashMap<>();
            byLevel.forEach((level, count) -> counts.put(level.text(), count));
            lost.put(sink, counts);
        });
        return lost;
    }

    @Override
    public Map<String, String> getErrors() {
        return pipeline.errors();
    }

    @Override
    public boolean isHealthy() {
        return pipeline.sinks().values().stream().allMatch(SinkStatus::working);
    }

    @Override
    public Map<String, SinkState> getSinks() {
        Map<String, SinkState> sinks = new LinkedHashMap<>();
        pipeline.sinks().forEach((sink, status) -> sinks.put(sink, new ShownSink(status)));
        return sinks;
    }

    @Override
    public String getSettings() {
        return SettingsWriter.yaml(engine.settings());
    }

    @Override
    public String getLastRefusal() {
        return Objects.requireNonNullElse(engine.lastRefusal(), "");
    }

    @Override
    public List<String> getByHand() {
        return engine.tree().thresholds().byHand();
    }

    @Override
    public String threshold(String logger) {
        return engine.tree().thresholds().of(logger).text();
    }

    @Override
    public void setThreshold(String branch, String level, long seconds) {
        engine.tree().thresholds().set(branch, level(level), Duration.ofSeconds(seconds));
    }

    @Override
    public boolean resetThreshold(String branch) {
        return engine.tree().thresholds().reset(branch);
    }

    @Override
    public void raise(String target, String level, long seconds) {
        engine.tree().thresholds().raise(Condition.parse(target), level(level), Duration.ofSeconds(seconds));
    }

    @Override
    public void resetByHand() {
        engine.tree().thresholds().resetAll();
    }

    @Override
    public void reload() throws IOException {
        engine.reload();
    }

    @Override
    public String explain(String logger, String level, String fields) {
        return engine.explain(logger, level(level), FieldsText.parse(fields)).toString();
    }

    private static Level level(String name) {
        Level level = Level.of(name);
        if (level == null) {
            List<String> names = Arrays.stream(Level.values()).map(Level::text).toList();
            throw new IllegalArgumentException("\"" + name + "\" is not a valid level: expected one of "
                    + String.join(", ", names) + Nearest.hint(name, names));
        }
        return level;
    }
}
