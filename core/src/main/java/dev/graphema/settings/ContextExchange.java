package dev.graphema.settings;

import java.util.List;
import java.util.Locale;

/**
 * What is sent to called services and accepted from callers. Immutable.
 *
 * @param out the fields of the context that are sent, as W3C Baggage
 * @param in the names of baggage that are accepted from callers and forwarded; null for those of {@code out}
 * @param trustsCallers whether baggage, tracestate and the sampled flag of callers are accepted; the trace id always is
 * @param hosts the hosts to which trace and context are sent: {@code *} for all, {@code *.example} for all hosts of a
 *     domain
 */
public record ContextExchange(List<String> out, List<String> in, boolean trustsCallers, List<String> hosts) {
    /** No fields are sent, no names are accepted, callers are trusted, and traces are sent to all hosts. */
    public static final ContextExchange USUAL = new ContextExchange(List.of(), null, true, List.of("*"));

    public ContextExchange {
        out = List.copyOf(out);
        in = in == null ? null : List.copyOf(in);
        hosts = List.copyOf(hosts);
        for (String host : hosts) {
            if (!host.matches("\\*|(\\*\\.)?[A-Za-z0-9._:-]+")) {
                throw new IllegalArgumentException("context-hosts: \"" + host
                        + "\" (expected: a host without a port, *.example for all below a domain, or *)");
            }
        }
    }

    /** Returns the names of baggage that are accepted from callers. */
    public List<String> accepted() {
        return in == null ? out : in;
    }

    /**
     * Returns whether trace and context are sent to a host.
     *
     * @param host without a port; null if unknown
     */
    public boolean sendsTo(String host) {
        String plain = host == null ? "" : host.toLowerCase(Locale.ROOT);
        return hosts.stream().map(each -> each.toLowerCase(Locale.ROOT)).anyMatch(each -> matches(each, plain));
    }

    private static boolean matches(String pattern, String host) {
        return pattern.equals("*")
                || pattern.equals(host)
                || pattern.startsWith("*.") && host.endsWith(pattern.substring(1));
    }
}
