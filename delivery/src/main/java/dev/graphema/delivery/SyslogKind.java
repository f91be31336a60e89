package dev.graphema.delivery;

import dev.graphema.batch.BatchSink;
import dev.graphema.format.Formats;
import dev.graphema.format.SyslogLines;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Sends RFC 5424 messages over UDP (RFC 5426), TCP (RFC 6587, with octet counting) or TLS (RFC 5425).
 *
 * <p>The protocol has no answers. Over UDP, events that the network loses are lost. Over TCP and TLS, a broken
 * connection is opened again, and the last batches before the break are sent again, because it is unknown whether they
 * arrived.
 */
public final class SyslogKind implements SinkKind {
    /** The transport of messages. */
    public enum Transport {
        UDP(514),
        TCP(601),
        TLS(6514);

        private final int usualPort;

        Transport(int usualPort) {
            this.usualPort = usualPort;
        }
    }

    public static final Option<String> HOST =
            Option.text("host", "a host such as logs.example").required().meaning("the host of the receiver");
    public static final Option<Integer> PORT = Option.count("port", 1, 65_535)
            .standard(null, "514 for udp, 601 for tcp, 6514 for tls")
            .meaning("the port of the receiver");
    public static final Option<Transport> TRANSPORT =
            Option.word("transport", Transport.class).standard(Transport.UDP).meaning("the transport protocol");
    public static final Option<Integer> FACILITY = Formats.FACILITY;
    public static final Option<Integer> MOST_BYTES = Option.count("datagram", 480, 65_000)
            .standard(2048)
            .meaning("over UDP, the most bytes of a message; a longer one is cut");
    public static final Option<Duration> TIMEOUT = Option.duration("timeout")
            .standard(Duration.ofSeconds(5), "5s")
            .meaning("the longest duration of connecting, and of writing a batch");

    @Override
    public String name() {
        return "syslog";
    }

    @Override
    public String meaning() {
        return "RFC 5424 messages over UDP, TCP or TLS";
    }

    @Override
    public List<Option<?>> options() {
        List<Option<?>> options =
                new ArrayList<>(List.of(HOST, PORT, TRANSPORT, FACILITY, MOST_BYTES, TIMEOUT, Tls.TRUST));
        options.addAll(BatchSink.OPTIONS);
        return options;
    }

    @Override
    public boolean mayRepeat() {
        return true;
    }

    @Override
    public Sink open(Options options, SinkContext context) throws IOException {
        Transport transport = options.get(TRANSPORT);
        Integer port = options.get(PORT);
        SyslogLines messages = SyslogLines.of(options.get(FACILITY));
        String host = options.get(HOST);
        int at = port == null ? transport.usualPort : port;
        return BatchSink.open(
                switch (transport) {
                    case UDP -> new SyslogDatagrams(host, at, messages, options.get(MOST_BYTES));
                    case TCP -> new SyslogStream(host, at, messages, options.get(TIMEOUT), null);
                    case TLS ->
                        new SyslogStream(host, at, messages, options.get(TIMEOUT), Tls.context(options.get(Tls.TRUST)));
                },
                options,
                context);
    }

    @Override
    public String toString() {
        return name();
    }
}
