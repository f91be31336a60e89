package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Failure;
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
    private static final int LONGEST_NAME = 32;
    private static final long MOST_SEQUENCE = Integer.MAX_VALUE; // then it starts again, by the standard

    private static final AsciiSet IN_WORDS = AsciiSet.printableExcept(" ");
    private static final AsciiSet IN_NAMES = AsciiSet.printableExcept(" =]\"");
    private static final AsciiSet IN_VALUES = AsciiSet.printableExcept("\"\\]");
    private static final AsciiSet PRINTABLE = AsciiSet.printableExcept("");

    private final int facility;
    private final String host;
    private final String process = Long.toString(ProcessHandle.current().pid());
    private final Rfc3339 times = new Rfc3339();
    private final EventBytes bytes = new EventBytes();
    private final EventRecord record = new EventRecord();
    private final RecordPairs fields = new Fields();

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
        bytes.write(event);
        write(record.read(bytes.array(), 0, bytes.length()), to);
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        to.ascii('<').number(facility * 8L + severity(event.level())).ascii(">1 ");
        times.writeMicros(event.epochNanos(), to);
        word(host, 255, to);
        word(event, event.service(), 48, to);
        word(process, 128, to);
        word(event, event.logger(), 32, to);
        to.ascii(' ');
        int begin = to.length();
        structuredData(event, to);
        if (to.length() == begin) {
            to.ascii('-');
        }
        if (event.message() != 0 && event.length(event.message()) > 0) {
            to.ascii(' ');
            message(event, event.message(), to);
        }
        to.ascii('\n');
    }

    private static void message(EventRecord event, long text, Utf8Buffer to) {
        if (event.isPlain(text)) {
            to.bytes(event.array(), event.from(text), event.length(text));
            return;
        }
        String message = event.string(text);
        if (!PRINTABLE.containsAll(message) && !isAscii(message)) {
            to.text(BYTE_ORDER_MARK);
        }
        Escapes.visible(message, to);
    }

    private void structuredData(EventRecord event, Utf8Buffer to) {
        if (event.hasFields()) {
            to.ascii("[fields").ascii(ENTERPRISE);
            fields.write(event, to);
            to.ascii(']');
        }
        if (event.hasTrace()) {
            to.ascii("[trace").ascii(ENTERPRISE).ascii(" trace=\"").hex(event.traceHigh());
            to.hex(event.traceLow()).ascii('"');
            if (event.hasSpan()) {
                to.ascii(" span=\"").hex(event.span()).ascii('"');
            }
            to.ascii(']');
        }
        long sequence = event.sequence();
        if (sequence != 0) {
            to.ascii("[meta sequenceId=\"").number((sequence - 1) % MOST_SEQUENCE + 1);
            to.ascii("\"]");
        }
        if (sequence != 0 && event.run() != 0) {
            to.ascii("[event").ascii(ENTERPRISE).ascii(" id=\"");
            value(event, event.run(), to);
            to.ascii('-').number(sequence).ascii('"');
            if (event.weight() != 1) {
                to.ascii(" weight=\"").number(event.weight()).ascii('"');
            }
            if (event.held()) {
                to.ascii(" held=\"true\"");
            }
            to.ascii(']');
        }
        Failure failure = event.failure();
        if (failure != null) {
            to.ascii("[failure").ascii(ENTERPRISE);
            parameter("type", failure.type(), to);
            if (failure.message() != null) {
                parameter("message", failure.message(), to);
            }
            parameter("fingerprint", failure.fingerprint(), to);
            to.ascii(']');
        }
    }

    private static void parameter(String name, String value, Utf8Buffer to) {
        to.ascii(' ');
        plain(name, LONGEST_NAME, IN_NAMES, to);
        to.ascii("=\"");
        value(value, to);
        to.ascii('"');
    }

    private static void value(EventRecord event, long text, Utf8Buffer to) {
        int from = event.from(text);
        int length = event.length(text);
        if (event.isPlain(text) && IN_VALUES.containsAll(event.array(), from, length)) {
            to.bytes(event.array(), from, length);
        } else {
            value(event.string(text), to);
        }
    }

    private static void value(String value, Utf8Buffer to) {
        if (IN_VALUES.containsAll(value)) {
            to.ascii(value);
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
    }

    private static void word(EventRecord event, long text, int longest, Utf8Buffer to) {
        int length = text == 0 ? 0 : event.length(text);
        if (length > 0
                && length <= longest
                && event.isPlain(text)
                && IN_WORDS.containsAll(event.array(), event.from(text), length)) {
            to.ascii(' ').bytes(event.array(), event.from(text), length);
        } else {
            word(event.string(text), longest, to);
        }
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

    private static final class Fields extends RecordPairs {
        Fields() {
            super(false);
        }

        @Override
        void begin(EventRecord event, long name, Utf8Buffer line) {
            int from = event.from(name);
            int length = event.length(name);
            if (length > 0 && length <= LONGEST_NAME && IN_NAMES.containsAll(event.array(), from, length)) {
                line.ascii(' ').bytes(event.array(), from, length).ascii("=\"");
            } else {
                begin(event.string(name), line);
            }
        }

        @Override
        void begin(String name, Utf8Buffer line) {
            line.ascii(' ');
            plain(name, LONGEST_NAME, IN_NAMES, line);
            line.ascii("=\"");
        }

        @Override
        void value(EventRecord event, long text, Utf8Buffer line) {
            SyslogLines.value(event, text, line);
        }

        @Override
        void value(String text, Utf8Buffer line) {
            SyslogLines.value(text, line);
        }

        @Override
        void end(Utf8Buffer line) {
            line.ascii('"');
        }
    }
}
