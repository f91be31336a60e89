package dev.graphema.collector;

import java.net.URI;
import java.nio.file.Path;
import java.util.Objects;

/**
 * A collector that is asked, too, when a collector answers a question.
 *
 * @param address its address: {@code https://collector-2.example:7443}
 * @param token the token of a reader there; null for none
 * @param certificates a file with certificates to trust, in PEM (RFC 7468); null for those of the JDK
 */
public record OtherCollector(URI address, String token, Path certificates) {
    public OtherCollector {
        Objects.requireNonNull(address, "address");
    }

    /** Returns the address, because the token is a secret. */
    @Override
    public String toString() {
        return address.toString();
    }
}
