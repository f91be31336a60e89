package dev.graphema.redaction;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.Locale;
import java.util.Objects;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * Replaces secrets by pseudonyms. Equal secrets have equal pseudonyms, so that the events of one person can be
 * followed, but only with the key can they be assigned to a person. A pseudonym is the HMAC-SHA-256 (RFC 2104) of the
 * secret in lower case without surrounding spaces, encoded as 26 letters after the id of the key: {@code
 * pseudonym-k1-fhbjmacdioplgnekbahc…}. Thread-safe.
 */
public final class Pseudonyms implements Treatment {
    private static final String ALGORITHM = "HmacSHA256";
    private static final int LETTERS = 26;
    private static final int SHORTEST_KEY = 16;
    private static final Pattern FORM = Pattern.compile("pseudonym-[A-Za-z0-9_]{1,32}-[a-z]{26}");

    private final String keyId;
    private final SecretKeySpec key;

    private Pseudonyms(String keyId, SecretKeySpec key) {
        this.keyId = keyId;
        this.key = key;
    }

    /**
     * Creates pseudonyms with a key.
     *
     * @param keyId identifies the key in results: letters, digits and {@code _}
     * @param key 16 or more characters; never shown
     */
    public static Pseudonyms of(String keyId, String key) {
        if (!Objects.requireNonNull(keyId, "keyId").matches("[A-Za-z0-9_]{1,32}")) {
            throw new IllegalArgumentException(
                    "the key's id is \"" + keyId + "\" (expected: 1 to 32 letters, digits and _)");
        }
        byte[] bytes = key.getBytes(StandardCharsets.UTF_8);
        if (bytes.length < SHORTEST_KEY) {
            throw new IllegalArgumentException(
                    "the key has " + bytes.length + " bytes (expected: " + SHORTEST_KEY + " or more)");
        }
        return new Pseudonyms(keyId, new SecretKeySpec(bytes, ALGORITHM));
    }

    @Override
    public String treat(String secret, String kind) {
        if (FORM.matcher(secret).matches()) {
            return secret; // one already
        }
        try {
            Mac mac = Mac.getInstance(ALGORITHM);
            mac.init(key);
            byte[] hash = mac.doFinal(secret.strip().toLowerCase(Locale.ROOT).getBytes(StandardCharsets.UTF_8));
            StringBuilder letters =
                    new StringBuilder("pseudonym-").append(keyId).append('-');
            for (int i = 0; i < LETTERS; i++) {
                // No digit: a pseudonym must not look like an account number. 256 is no multiple of 26, which costs a
                // little of
                // the evenness and nothing of the secrecy.
                letters.append((char) ('a' + (hash[i] & 0xFF) % 26));
            }
            return letters.toString();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("this JDK has no " + ALGORITHM, e); // then the value is withheld
        }
    }

    /** Returns the id of the key, never the key. */
    @Override
    public String toString() {
        return "pseudonyms by the key " + keyId;
    }
}
