package dev.graphema.redaction;

/** Replaces secrets. Immutable. Applied to its own result, it changes nothing. */
@FunctionalInterface
public interface Treatment {
    /** {@code [redacted mail]}, with the kind of secret. */
    Treatment FIXED = (secret, kind) -> "[redacted " + kind + "]";

    /** {@code [removed]} in a text; removes a field that is selected by name. */
    Treatment REMOVE = (secret, kind) -> "[removed]";

    /** Keeps the value. Makes an exception from names of secrets. */
    Treatment KEEP = (secret, kind) -> secret;

    /** A star for each letter and digit; other characters are kept. */
    Treatment MASK = (secret, kind) -> Treated.outside(secret, text -> masked(text, 0));

    /**
     * The network of an address: without the last part of an IPv4 address, or the last five groups of an IPv6 address.
     */
    Treatment NETWORK = Networks::of;

    /**
     * Returns the replacement.
     *
     * @param secret the finding, or the value of a field
     * @param kind the name of a detector or a key
     */
    String treat(String secret, String kind);

    /** A star for each letter and digit except the last ones. */
    static Treatment last(int shown) {
        return (secret, kind) -> Treated.outside(secret, text -> masked(text, shown));
    }

    private static String masked(String secret, int shown) {
        StringBuilder masked = new StringBuilder(secret.length());
        int left = 0;
        for (int i = 0; i < secret.length(); i++) {
            left += Character.isLetterOrDigit(secret.charAt(i)) ? 1 : 0;
        }
        // Of a short secret, the last few would be most of it.
        int kept = left >= 2 * shown ? shown : 0;
        int stars = (int) secret.chars().filter(c -> c == '*').count();
        boolean isMasked = stars > 0 && left <= shown;
        for (int i = 0; i < secret.length(); i++) {
            char c = secret.charAt(i);
            boolean hides = Character.isLetterOrDigit(c) && left-- > kept && !isMasked;
            masked.append(hides ? '*' : c);
        }
        return masked.toString();
    }
}
