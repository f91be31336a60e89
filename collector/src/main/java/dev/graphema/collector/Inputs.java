package dev.graphema.collector;

import dev.graphema.collector.follow.FollowedFiles;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.syslog.SyslogReceiver;
import dev.graphema.segments.store.StoreSource;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;

/** What a collector reads besides HTTP. */
final class Inputs implements Closeable {
    private final SyslogReceiver syslog;
    private final FollowedFiles files;

    private Inputs(SyslogReceiver syslog, FollowedFiles files) {
        this.syslog = syslog;
        this.files = files;
    }

    static Inputs start(CollectorOptions options, Intake intake) throws IOException {
        SyslogReceiver syslog = SyslogReceiver.start(
                options.syslog(),
                new SyslogReceiver.Common(intake, options.environment(), options.tls(), options.problems()));
        try {
            return new Inputs(
                    syslog,
                    FollowedFiles.start(
                            options.followed(),
                            options.environment(),
                            intake,
                            options.store(),
                            StoreSource.at(options.store()),
                            options.problems()));
        } catch (IOException e) {
            syslog.close();
            throw e;
        }
    }

    List<Integer> syslogPorts() {
        return syslog.ports();
    }

    @Override
    public void close() throws IOException {
        try (syslog) {
            files.close();
        }
    }
}
