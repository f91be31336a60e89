package dev.graphema.collector.input;

import java.util.Objects;

/**
 * A port at which messages of RFC 5424 arrive. Senders are not asked who they are: it should be open to those only that may send.
 *
 * @param over the transport
 * @param host the address on which to listen
 * @param port 0 for any free one
 * @param source the name of the sender in {@code collector.source}; null for the address of each sender
 * @param environment the environment of what arrives; null for that of the collector
 */
public record SyslogPort(Transport over, String host, int port, String source, String environment) {
    /** How messages are transported. */
    public enum Transport {
        /** A message per datagram (RFC 5426). Messages can be lost on the way. */
        UDP,
        /** A stream in which messages have a length before them or a line feed behind them (RFC 6587). */
        TCP,
        /** As TCP, encrypted (RFC 5425). */
        TLS
    }

    public SyslogPort {
        Objects.requireNonNull(over, "over");
        Objects.requireNonNull(host, "host");
        if (port < 0 || port > 65_535) {
            throw new IllegalArgumentException("port: " + port + " (expected: 0 to 65535)");
        }
    }
}
