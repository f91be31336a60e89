package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.text.AsciiSet;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;
import java.net.InetAddress;
import java.net.UnknownHostException;

/**
 * The syslog protocol's messages (RFC 5424), one on each line:
 *
 * <pre>{@code
 * <131>1 2026-05-15T06:31:02.123456Z dock-7 deck 4711 skerry.deck.Lanes [fields@32473 lane="A3"] lane not free
 * }</pre>
 *
 * <p>The service is the application's name, the logger the message's id. Fields, with dotted names, and trace, span,
 * failure and the event's id are structured data under the enterprise number 32473, which RFC 5612 keeps for documentation; the sequence is the standard's {@code meta sequenceId}. Fatal is severity 2
 * (critical), error 3, warn 4, info 6, debug and trace 7. What the protocol does not allow in a name becomes an underscore;
 * control characters are escaped.
 */
public final class SyslogLines implements Format {
    private static final String ENTERPRISE = "@32473";
    private static final String BYTE_ORDER_MARK = "\uFEFF";
    private static final int MOST_FACILITIES = 24;
    private static final long MOST_SEQUENCE = Integer.MAX_VALUE; // then it starts again, by the standard

    private static final AsciiSet IN_WORDS = AsciiSet.printableExcept(" ");
    private static final AsciiSet IN_NAMES = AsciiSet.printableExcept(" =]\"");
    private static final AsciiSet IN_VALUES = AsciiSet.printableExcept("\"\\]");
    private static final AsciiSet PRINTABLE = AsciiSet.printableExcept("");

    private final int facility;
    private final String host;
    private final String process = Long.toString(ProcessHandle.current().pid());
    private final Rfc3339 times = new Rfc3339();

    private SyslogLines(int facility, String host) {
        this.facility = facility;
        this.host = host;
    }

    /**
     * Returns the format for this host.
     *
     * @param facility the facility of the protocol, from 0 to 23; 16 to 23 are for local use
     */
    public static SyslogLines of(int facility) {
        if (facility < 0 || facility >= MOST_FACILITIES) {
            throw new IllegalArgumentException("facility: " + facility + " (expected: 0 to 23)");
        }
        return new SyslogLines(facility, localHost());
    }

    @Override
    public void write(Event event, Utf8Buffer to) {
        to.ascii('<').number(facility * 8L + severity(event.level())).ascii(">1 ");
        times.writeMicros(event.epochNanos(), to);
        word(host, 255, to);
        word(event.service(), 48, to);
        word(process, 128, to);
        word(event.logger(), 32, to);
        to.ascii(' ');
        structuredData(event, to);
        if (event.message() != null && !event.message().isEmpty()) {
            to.ascii(' ');
            if (!PRINTABLE.containsAll(event.message()) && !isAscii(event.message())) {
                to.text(BYTE_ORDER_MARK);
            }
            Escapes.visible(event.message(), to);
        }
        to.ascii('\n');
    }

    private static void structuredData(Event event, Utf8Buffer to) {
        boolean any = false;
        if (!event.fields().isEmpty()) {
            any = true;
            to.ascii("[fields").ascii(ENTERPRISE);
            for (FieldText.Pair pair : FieldText.unquoted(event.fields())) {
                parameter(pair.name(), pair.value(), to);
            }
            to.ascii(']');
        }
        if (event.trace() != null) {
            any = true;
            to.ascii("[trace").ascii(ENTERPRISE);
            parameter("trace", event.trace().toString(), to);
            if (event.span() != null) {
                parameter("span", event.span().toString(), to);
            }
            to.ascii(']');
        }
        if (event.sequence() != 0) {
            any = true;
            to.ascii("[meta sequenceId=\"")
                    .number((event.sequence() - 1) % MOST_SEQUENCE + 1)
                    .ascii("\"]");
        }
        if (event.id() != null) {
            to.ascii("[event").ascii(ENTERPRISE);
            parameter("id", event.id(), to);
            if (event.weight() != 1) {
                parameter("weight", Long.toString(event.weight()), to);
            }
            if (event.held()) {
                parameter("held", "true", to);
            }
            to.ascii(']');
        }
        if (event.failure() != null) {
            any = true;
            to.ascii("[failure").ascii(ENTERPRISE);
            parameter("type", event.failure().type(), to);
            if (event.failure().message() != null) {
                parameter("message", event.failure().message(), to);
            }
            parameter("fingerprint", event.failure().fingerprint(), to);
            to.ascii(']');
        }
        if (!any) {
            to.ascii('-');
        }
    }

    private static void parameter(String name, String value, Utf8Buffer to) {
        to.ascii(' ');
        plain(name, 32, IN_NAMES, to);
        to.ascii("=\"");
        if (IN_VALUES.containsAll(value)) {
            to.ascii(value).ascii('"');
            return;
        }
        String harmless = Escapes.visible(value);
        for (int i = 0; i < harmless.length(); ) {
            int point = harmless.codePointAt(i);
            if (point == '"' || point == '\\' || point == ']') {
                to.ascii('\\');
            }
            to.codePoint(point);
            i += Character.charCount(point);
        }
        to.ascii('"');
    }

    private static void word(String text, int longest, Utf8Buffer to) {
        to.ascii(' ');
        if (text == null || text.isEmpty()) {
            to.ascii('-');
        } else {
            plain(text, longest, IN_WORDS, to);
        }
    }

    /** Writes the text with underscores instead of characters that are not allowed; of one that is too long, the end. */
    private static void plain(String text, int longest, AsciiSet allowed, Utf8Buffer to) {
        if (text.isEmpty()) {
            to.ascii('_');
        }
        for (int i = Math.max(0, text.length() - longest); i < text.length(); i++) {
            char c = text.charAt(i);
            to.ascii(allowed.contains(c) ? c : '_');
        }
    }

    private static boolean isAscii(String text) {
        return text.chars().allMatch(c -> c < 0x80);
    }

    /** Returns the severity of a level in the protocol. */
    static int severity(Level level) {
        return switch (level == null ? Level.INFO : level) {
            case FATAL, OFF -> 2;
            case ERROR -> 3;
            case WARN -> 4;
            case INFO -> 6;
            case DEBUG, TRACE -> 7;
        };
    }

    private static String localHost() {
        try {
            return InetAddress.getLocalHost().getHostName();
        } catch (UnknownHostException e) {
            return null; // the protocol has a sign for that
        }
    }
}
