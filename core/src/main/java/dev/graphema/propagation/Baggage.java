package dev.graphema.propagation;

import dev.graphema.event.Fields;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * The header {@code baggage} of W3C Baggage: names and values that are sent with requests. Received baggage is not
 * trusted: it is limited in size, and its fields do not override fields of this process. Immutable.
 */
public final class Baggage {
    public static final Baggage NONE = new Baggage(Map.of());

    /** The limits up to which the recommendation requires baggage to be forwarded. */
    private static final int MOST_MEMBERS = 64;

    private static final int MOST_BYTES = 8192;

    /** The most members that become fields, and the longest value. */
    private static final int MOST_FIELDS = 16;

    private static final int LONGEST_FIELD = 256;

    /** The text of each member by key: value and properties, encoded as received. */
    private final Map<String, String> members;

    private Baggage(Map<String, String> members) {
        this.members = members;
    }

    /** Parses a header. Members that are invalid or exceed the limits are omitted. */
    public static Baggage parse(String header) {
        if (header == null || header.isBlank()) {
            return NONE;
        }
        Map<String, String> members = new LinkedHashMap<>();
        int bytes = 0;
        for (String part : header.split(",", -1)) {
            String member = part.strip();
            int equals = member.indexOf('=');
            if (equals <= 0) {
                continue;
            }
            String key = member.substring(0, equals).strip();
            String rest = withValidProperties(member.substring(equals + 1).strip());
            // Members are parted by a comma; the first one has none before it.
            bytes += key.length() + 1 + rest.length() + (bytes == 0 ? 0 : 1);
            if (bytes > MOST_BYTES || members.size() >= MOST_MEMBERS) {
                break;
            }
            if (isToken(key) && isValue(value(rest))) {
                members.putIfAbsent(key, rest);
            }
        }
        return members.isEmpty() ? NONE : new Baggage(members);
    }

    /** Returns the members with accepted names, with values as the operator returns them. */
    public Baggage only(Predicate<String> names, UnaryOperator<String> operator) {
        Map<String, String> accepted = new LinkedHashMap<>();
        members.forEach((name, member) -> {
            if (names.test(name)) {
                String before = decoded(value(member));
                String after = operator.apply(before);
                accepted.put(name, after.equals(before) ? member : encoded(after));
            }
        });
        return accepted.isEmpty() ? NONE : new Baggage(accepted);
    }

    /** Returns the decoded value of a member, or null. */
    public String get(String key) {
        String member = members.get(key);
        return member == null ? null : decoded(value(member));
    }

    /**
     * Returns baggage with an additional member.
     *
     * @param value printable and without commas, semicolons and spaces
     */
    public Baggage with(String key, String value) {
        Map<String, String> more = new LinkedHashMap<>(members);
        more.put(key, value);
        return new Baggage(more);
    }

    /** Returns the decoded values as text fields, limited in number and length. */
    public Fields fields() {
        if (members.isEmpty()) {
            return Fields.NONE;
        }
        return Fields.of(f -> members.entrySet().stream().limit(MOST_FIELDS).forEach(member -> {
            String value = decoded(value(member.getValue()));
            if (value.length() <= LONGEST_FIELD) {
                f.put(member.getKey(), value);
            }
        }));
    }

    /**
     * Returns the header to send: the received members, and the listed fields of the context, which replace members of
     * the same name.
     *
     * @return null if there is nothing to send
     */
    public String header(Fields context, List<String> leaving) {
        Map<String, String> all = new LinkedHashMap<>(members);
        for (String name : leaving) {
            Object value = context.get(name);
            boolean isSimple = value instanceof String || value instanceof Number || value instanceof Boolean;
            if (isSimple && isToken(name)) {
                all.put(name, encoded(value.toString()));
            }
        }
        List<String> parts = new ArrayList<>();
        int bytes = 0;
        for (Map.Entry<String, String> member : all.entrySet()) {
            String part = member.getKey() + "=" + member.getValue();
            bytes += part.length() + (bytes == 0 ? 0 : 1);
            if (bytes > MOST_BYTES || parts.size() == MOST_MEMBERS) {
                break;
            }
            parts.add(part);
        }
        return parts.isEmpty() ? null : String.join(",", parts);
    }

    private static String value(String rest) {
        int semicolon = rest.indexOf(';');
        return semicolon < 0 ? rest : rest.substring(0, semicolon).strip();
    }

    /** A token as in RFC 9110. */
    private static boolean isToken(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean alphanumeric = c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9';
            if (!alphanumeric && "!#$%&'*+-.^_`|~".indexOf(c) < 0) {
                return false;
            }
        }
        return !text.isEmpty();
    }

    /** Whether the text consists of baggage-octet characters of the recommendation. */
    private static boolean isValue(String text) {
        return text.chars().allMatch(Baggage::isOctet);
    }

    private static boolean isOctet(int c) {
        return c > 0x20 && c < 0x7F && c != '"' && c != ',' && c != ';' && c != '\\';
    }

    /** Returns the value and the valid properties of a member. */
    private static String withValidProperties(String rest) {
        if (rest.indexOf(';') < 0) {
            return rest;
        }
        StringBuilder valid = new StringBuilder(value(rest));
        String[] parts = rest.split(";", -1);
        for (int i = 1; i < parts.length; i++) {
            String property = parts[i].strip();
            int equals = property.indexOf('=');
            String key = equals < 0 ? property : property.substring(0, equals).strip();
            if (isToken(key)
                    && (equals < 0 || isValue(property.substring(equals + 1).strip()))) {
                valid.append(';').append(property);
            }
        }
        return valid.toString();
    }

    private static String encoded(String text) {
        StringBuilder result = new StringBuilder(text.length());
        for (byte b : text.getBytes(StandardCharsets.UTF_8)) {
            if (isOctet(b) && b != '%') {
                result.append((char) b);
            } else {
                result.append('%').append(hex(b >> 4 & 15)).append(hex(b & 15));
            }
        }
        return result.toString();
    }

    private static char hex(int digit) {
        return Character.toUpperCase(Character.forDigit(digit, 16));
    }

    /**
     * Decodes percent-encoding. A percent sign without two hexadecimal digits is kept; invalid UTF-8 becomes U+FFFD.
     */
    private static String decoded(String text) {
        byte[] bytes = new byte[text.length()];
        int length = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            int high = c == '%' && i + 2 < text.length() ? Character.digit(text.charAt(i + 1), 16) : -1;
            int low = high < 0 ? -1 : Character.digit(text.charAt(i + 2), 16);
            if (low >= 0) {
                bytes[length++] = (byte) (high << 4 | low);
                i += 2;
            } else {
                bytes[length++] = (byte) c;
            }
        }
        return new String(bytes, 0, length, StandardCharsets.UTF_8);
    }
}
