package dev.graphema.propagation;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;

/**
 * The value of the header {@code traceparent} as in W3C Trace Context.
 *
 * @param flags the eight flags; of them, 1 is "sampled" and 2 "random"
 */
public record TraceParent(TraceId trace, SpanId span, int flags) {
    private static final int LENGTH = 55;

    /**
     * Parses the header as the recommendation defines.
     *
     * @return null if it is invalid
     */
    public static TraceParent parse(String text) {
        String header = text == null ? null : TraceState.withoutBlanks(text);
        if (header == null || header.length() < LENGTH || !hasShape(header)) {
            return null;
        }
        int version = hexPair(header, 0);
        int flags = hexPair(header, 53);
        if (version < 0 || version == 0xFF || flags < 0) {
            return null;
        }
        // Version 00 has exactly these parts; a later one may have more behind a dash.
        if (header.length() > LENGTH && (version == 0 || header.charAt(LENGTH) != '-')) {
            return null;
        }
        TraceId trace = TraceId.parse(header.substring(3, 35));
        SpanId span = SpanId.parse(header.substring(36, 52));
        return trace == null || span == null ? null : new TraceParent(trace, span, flags);
    }

    private static boolean hasShape(String header) {
        return header.charAt(2) == '-' && header.charAt(35) == '-' && header.charAt(52) == '-';
    }

    private static int hexPair(String text, int at) {
        int high = hex(text.charAt(at));
        int low = hex(text.charAt(at + 1));
        return high < 0 || low < 0 ? -1 : high << 4 | low;
    }

    private static int hex(char c) {
        return c >= '0' && c <= '9' ? c - '0' : c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
    }

    /** The header in version 00. */
    @Override
    public String toString() {
        return "00-" + trace + "-" + span + "-" + Character.forDigit(flags >> 4, 16)
                + Character.forDigit(flags & 15, 16);
    }
}
