package dev.graphema.collector.alert;

import java.net.URI;
import java.util.Objects;

/** Who receives alerts. */
public sealed interface AlertReceiver {
    String name();

    /**
     * An address that receives a POST with JSON, signed with HTTP Message Signatures (RFC 9421).
     *
     * @param secret the shared key, never shown; null for no signature
     */
    record Web(String name, URI url, String secret) implements AlertReceiver {
        public Web {
            Objects.requireNonNull(name, "name");
            Objects.requireNonNull(url, "url");
        }

        @Override
        public String toString() {
            return name + " at " + url + (secret == null ? ", not signed" : ", signed");
        }
    }

    /**
     * A mailbox.
     *
     * @param to the address of the recipient
     * @param from that of the sender
     * @param server the host and port of the server that accepts mail (RFC 5321)
     * @param user the name at the server; null for none
     * @param password the password at the server, never shown; null for none
     */
    record Mail(String name, String to, String from, String server, String user, String password)
            implements AlertReceiver {
        public Mail {
            Objects.requireNonNull(name, "name");
            Objects.requireNonNull(to, "to");
            Objects.requireNonNull(from, "from");
            Objects.requireNonNull(server, "server");
        }

        @Override
        public String toString() {
            return name + ", mail to " + to + " by " + server;
        }
    }
}
