package dev.graphema;

import dev.graphema.event.Fields;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * The header {@code baggage} as in W3C Baggage: names and values that travel with a request. What comes from outside is
 * not trusted: it is bounded, and as fields of the context it hides nothing that this process says itself. Immutable.
 */
final class Baggage {
    static final Baggage NONE = new Baggage(Map.of());

    /** The limits within which the recommendation asks everybody to pass baggage on. */
    private static final int MOST_MEMBERS = 64;

    private static final int MOST_BYTES = 8192;

    /** How many members become fields, and how long their values may be. */
    private static final int MOST_FIELDS = 16;

    private static final int LONGEST_FIELD = 256;

    /** Each member's text by its key: value and properties, as they came, encoded. */
    private final Map<String, String> members;

    private Baggage(Map<String, String> members) {
        this.members = members;
    }

    /** Reads a header; members that are invalid, and those beyond the limits, are left out. */
    static Baggage parse(String header) {
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

    /** The members of some names, with a text in place of each value that an operator changes. */
    Baggage only(Predicate<String> names, UnaryOperator<String> operator) {
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

    /** A member's value, decoded, or null. */
    String get(String key) {
        String member = members.get(key);
        return member == null ? null : decoded(value(member));
    }

    /** The same with one more member. @param value printable and without commas, semicolons and blanks */
    Baggage with(String key, String value) {
        Map<String, String> more = new LinkedHashMap<>(members);
        more.put(key, value);
        return new Baggage(more);
    }

    /** The values as fields of text, decoded; bounded in number and length. */
    Fields fields() {
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
     * The header to send on: what came in, and those fields of the context that are to leave the process. A field of one's
     * own takes the place of a member of the same name.
     *
     * @return null when there is nothing to send
     */
    String header(Fields context, List<String> leaving) {
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

    /** Whether the text consists of what the recommendation calls baggage-octet. */
    private static boolean isValue(String text) {
        return text.chars().allMatch(Baggage::isOctet);
    }

    private static boolean isOctet(int c) {
        return c > 0x20 && c < 0x7F && c != '"' && c != ',' && c != ';' && c != '\\';
    }

    /** A member's value and properties, without those properties that the recommendation does not allow. */
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

    /** Undoes percent-encoding; a percent sign without two digits stays, and bytes that are no UTF-8 become U+FFFD. */
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
