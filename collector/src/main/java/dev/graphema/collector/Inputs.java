package dev.graphema.collector;

import dev.graphema.collector.follow.FollowedFiles;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.syslog.SyslogReceiver;
import dev.graphema.collector.topic.Topics;
import dev.graphema.segments.store.StoreSource;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;

/** What a collector reads besides HTTP. */
final class Inputs implements Closeable {
    private final Started started;
    private final List<Integer> syslogPorts;

    private Inputs(Started started, List<Integer> syslogPorts) {
        this.started = started;
        this.syslogPorts = syslogPorts;
    }

    static Inputs start(CollectorOptions options, Intake intake) throws IOException {
        Started started = new Started();
        try {
            SyslogReceiver syslog = started.add(SyslogReceiver.start(
                    options.syslog(),
                    new SyslogReceiver.Common(intake, options.environment(), options.tls(), options.problems())));
            started.add(FollowedFiles.start(
                    options.followed(),
                    options.environment(),
                    intake,
                    options.store(),
                    StoreSource.at(options.store()),
                    options.problems()));
            started.add(
                    Topics.start(options.topics(), options.environment(), intake, options.store(), options.problems()));
            return new Inputs(started, syslog.ports());
        } catch (IOException | RuntimeException e) {
            started.close();
            throw e;
        }
    }

    List<Integer> syslogPorts() {
        return syslogPorts;
    }

    @Override
    public void close() throws IOException {
        started.close();
    }
}
