package dev.graphema.remote;

import dev.graphema.condition.Condition;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.PartialTransfer;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventRows;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.file.Path;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/**
 * The events of a collector. It counts, compares and selects on its own, and returns partial answers; only events that are shown
 * are transferred. Immutable and thread-safe.
 *
 * <pre>{@code
 * EventSource source = RemoteSource.at(URI.create("https://collector.example:7070"), token);
 * }</pre>
 */
public final class RemoteSource implements EventSource {
    /** More than the segments and logs of a store. */
    private static final int MOST_UNITS = 1 << 13;

    private final CollectorClient client;

    private RemoteSource(CollectorClient client) {
        this.client = client;
    }

    /**
     * Returns the events of a collector; nothing is asked yet.
     *
     * @param address its address, {@code http} or {@code https}, without a path or with that of a proxy
     * @param token the token of a reader; null for none
     * @throws IllegalArgumentException if it is no such address
     */
    public static RemoteSource at(URI address, String token) {
        return new RemoteSource(new CollectorClient(Objects.requireNonNull(address, "address"), token, null));
    }

    /**
     * As above, for a collector with a certificate that the JDK does not trust.
     *
     * @param certificates a file with one or more certificates in PEM (RFC 7468): of the collector, or of its issuer
     * @throws IOException if the file cannot be read
     */
    public static RemoteSource at(URI address, String token, Path certificates) throws IOException {
        return new RemoteSource(new CollectorClient(
                Objects.requireNonNull(address, "address"), token, TrustedCertificates.read(certificates)));
    }

    /** Returns the events that the collector has in its own store, without those of other collectors that it asks. */
    public RemoteSource withoutOthers() {
        return new RemoteSource(client.withoutOthers());
    }

    @Override
    public String name() {
        return client.toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.allOf(Capability.class);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) {
        return Plan.deciding(scan, List.of(new Whole(scan)));
    }

    @Override
    public Following follow(Condition where) throws IOException {
        return new RemoteFollowing(client, where, null);
    }

    /**
     * Begins to follow with past events: first those since a time, oldest first, and then those that arrive, without a gap or a
     * duplicate between them.
     */
    public Following followSince(Condition where, Instant since) throws IOException {
        return new RemoteFollowing(client, where, Objects.requireNonNull(since, "since"));
    }

    private final class Whole implements Part {
        private final Scan scan;

        Whole(Scan scan) {
            this.scan = scan;
        }

        @Override
        public int units() {
            return MOST_UNITS;
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            RemoteEvents events = new RemoteEvents(client, scan, coverage);
            CoverageBuilder counted = new CoverageBuilder(Control.NONE); // by the collector, too
            return new EventRows(events, 0, scan.projection(), counted, events);
        }

        @Override
        public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) throws IOException {
            PartialTransfer.Request request = PartialTransfer.request(partial, scan.where(), scan.during());
            if (request == null) {
                return false;
            }
            try (InputStream state = client.part(request, () -> coverage.bytes(0))) {
                if (state != null) {
                    coverage.whole().add(PartialTransfer.merge(state, partial, WrittenEvents.reader()));
                }
            }
            return true;
        }

        @Override
        public String name() {
            return client.toString();
        }
    }
}
