package dev.graphema.collector.syslog;

import dev.graphema.collector.http.TlsFile;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.input.SyslogPort;
import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** All ports at which messages arrive. Thread-safe. */
public final class SyslogReceiver implements Closeable {
    private final List<OpenPort> ports = new ArrayList<>();

    /** A port that is open. */
    interface OpenPort extends Closeable {
        int port();
    }

    /**
     * What the ports have in common.
     *
     * @param intake stores messages
     * @param environment the environment of those that have none; null for unknown
     * @param tls the certificates; null for none
     * @param problems receives what the operator should know
     */
    public record Common(Intake intake, String environment, TlsFile tls, Consumer<String> problems) {}

    private SyslogReceiver() {}

    /** @throws IOException if a port is not free, or one with TLS has no certificates */
    public static SyslogReceiver start(List<SyslogPort> ports, Common common) throws IOException {
        SyslogReceiver receiver = new SyslogReceiver();
        try {
            for (SyslogPort each : ports) {
                receiver.ports.add(
                        each.over() == SyslogPort.Transport.UDP
                                ? new DatagramPort(each, common)
                                : new StreamPort(each, common));
            }
            return receiver;
        } catch (IOException e) {
            receiver.close();
            throw e;
        }
    }

    /** Returns the numbers of the ports in their order. */
    public List<Integer> ports() {
        return ports.stream().map(OpenPort::port).toList();
    }

    static IOException notFree(SyslogPort port, IOException cause) {
        return new IOException(
                "syslog port " + port.port() + " of " + port.host() + " cannot be opened: " + cause.getMessage()
                        + "; end the program that listens there, or choose another one",
                cause);
    }

    /** Ends all connections. What was received is stored. */
    @Override
    public void close() throws IOException {
        for (OpenPort each : ports) {
            each.close();
        }
    }
}
