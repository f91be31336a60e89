package dev.graphema;

import dev.graphema.pipeline.Pipeline;
import dev.graphema.settings.Settings;
import java.lang.management.ManagementFactory;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import javax.management.InstanceNotFoundException;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;

/** Shows a running Graphema through JMX, until it is closed. A program without JMX does without. */
final class Management implements GraphemaMXBean {
    private final Pipeline pipeline;
    private final Settings settings;
    private final Instant since = Instant.now();
    private ObjectName name;

    private Management(Pipeline pipeline, Settings settings) {
        this.pipeline = pipeline;
        this.settings = settings;
    }

    static Management show(Pipeline pipeline, Settings settings) {
        Management management = new Management(pipeline, settings);
        try {
            String service = settings.service() == null ? "none" : settings.service();
            ObjectName name = new ObjectName(
                    "dev.graphema:type=Graphema,service=" + ObjectName.quote(service) + ",run=" + pipeline.run());
            server().registerMBean(management, name);
            management.name = name;
        } catch (JMException | SecurityException e) {
            pipeline.report("JMX will not show the runtime: " + e);
        }
        return management;
    }

    /** Ends what {@link #show} began. A second call does nothing. */
    void hide() {
        if (name != null) {
            try {
                server().unregisterMBean(name);
            } catch (InstanceNotFoundException e) {
                return; // somebody else did it, or this is the second call
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
        return Objects.requireNonNullElse(settings.service(), "");
    }

    @Override
    public String getInstance() {
        return Objects.requireNonNullElse(settings.instance(), "");
    }

    @Override
    public String getSince() {
        return since.toString();
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
    public Map<String, String> getTroubles() {
        return pipeline.troubles();
    }
}
