package dev.graphema.runtime;

import dev.graphema.management.SinkState;
import dev.graphema.sink.SinkStatus;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;

/** The state of a sink for JMX. Immutable. */
final class ShownSink implements SinkState {
    private final SinkStatus status;

    ShownSink(SinkStatus status) {
        this.status = status;
    }

    @Override
    public boolean isWorking() {
        return status.working();
    }

    @Override
    public String getSince() {
        return status.since().toString();
    }

    @Override
    public String getError() {
        return Objects.requireNonNullElse(status.error(), "");
    }

    @Override
    public long getQueuedBytes() {
        return status.queuedBytes();
    }

    @Override
    public long getBacklogBytes() {
        return status.backlog().bytes();
    }

    @Override
    public long getOldestSeconds() {
        Instant oldest = status.backlog().oldest();
        return oldest == null
                ? 0
                : Math.max(0, Duration.between(oldest, Instant.now()).toSeconds());
    }

    @Override
    public long getWritten() {
        return status.written();
    }

    @Override
    public long getLost() {
        return status.lost().values().stream().mapToLong(Long::longValue).sum();
    }
}
