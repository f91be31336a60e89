package dev.graphema.propagation;

import java.util.Arrays;
import java.util.HashSet;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * The header {@code tracestate} of W3C Trace Context level 2: data of other tracing systems, which is forwarded
 * unchanged. An invalid header is dropped as a whole, as the recommendation requires.
 */
public final class TraceState {
    private static final int MOST_MEMBERS = 32;
    private static final int LONGEST_KEY = 256;
    private static final int LONGEST_VALUE = 256;

    private TraceState() {}

    /**
     * Returns the header without empty members and white space around members; null if it is missing, empty or invalid.
     */
    public static String valid(String header) {
        if (header == null) {
            return null;
        }
        StringBuilder result = new StringBuilder(header.length());
        Set<String> keys = new HashSet<>();
        for (String part : header.split(",", -1)) {
            String member = withoutBlanks(part);
            if (member.isEmpty()) {
                continue;
            }
            int equals = member.indexOf('=');
            if (equals < 0 || !isKey(member.substring(0, equals)) || !isValue(member, equals + 1)) {
                return null;
            }
            if (!keys.add(member.substring(0, equals)) || keys.size() > MOST_MEMBERS) {
                return null;
            }
            result.append(result.length() == 0 ? "" : ",").append(member);
        }
        return result.length() == 0 ? null : result.toString();
    }

    /** Returns a valid header without some of its members; null if none is left. */
    public static String without(String valid, Predicate<String> members) {
        String left = Arrays.stream(valid.split(",")).filter(members.negate()).collect(Collectors.joining(","));
        return left.isEmpty() ? null : left;
    }

    private static boolean isKey(String key) {
        if (key.isEmpty() || key.length() > LONGEST_KEY || !isLowerOrDigit(key.charAt(0))) {
            return false;
        }
        for (int i = 1; i < key.length(); i++) {
            char c = key.charAt(i);
            if (!isLowerOrDigit(c) && "_-*/@".indexOf(c) < 0) {
                return false;
            }
        }
        return true;
    }

    private static boolean isValue(String member, int from) {
        int length = member.length() - from;
        if (length == 0 || length > LONGEST_VALUE) {
            return false;
        }
        for (int i = from; i < member.length(); i++) {
            char c = member.charAt(i);
            if (c < 0x20 || c > 0x7E || c == '=') {
                return false;
            }
        }
        return true;
    }

    private static boolean isLowerOrDigit(char c) {
        return c >= 'a' && c <= 'z' || c >= '0' && c <= '9';
    }

    /** Only spaces and tabs are white space around a member. */
    static String withoutBlanks(String part) {
        int from = 0;
        int to = part.length();
        while (from < to && (part.charAt(from) == ' ' || part.charAt(from) == '\t')) {
            from++;
        }
        while (to > from && (part.charAt(to - 1) == ' ' || part.charAt(to - 1) == '\t')) {
            to--;
        }
        return part.substring(from, to);
    }
}
