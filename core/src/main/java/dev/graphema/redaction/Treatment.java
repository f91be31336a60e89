package dev.graphema.redaction;

/**
 * What stands in a secret's place. Immutable, and applied to its own result it changes nothing more.
 */
@FunctionalInterface
public interface Treatment {
    /** {@code [redacted mail]}, or whatever it is. */
    Treatment FIXED = (secret, kind) -> "[redacted " + kind + "]";

    /** In a text, {@code [removed]}; of a field that is meant by its name, the whole field goes. */
    Treatment REMOVE = (secret, kind) -> "[removed]";

    /** Nothing else: the value stays. Makes an exception from the names of secrets. */
    Treatment KEEP = (secret, kind) -> secret;

    /** A star for each letter and digit; what parts them stays. */
    Treatment MASK = (secret, kind) -> Treated.outside(secret, text -> masked(text, 0));

    /** The network of an address: the last part of an IPv4 address, and the last five groups of an IPv6 address, are gone. */
    Treatment NETWORK = Networks::of;

    /**
     * What is put there.
     *
     * @param secret what was found, or the value of a field
     * @param kind what it is: the name of a detector or a key
     */
    String treat(String secret, String kind);

    /** A star for each letter and digit but the last so many. */
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
