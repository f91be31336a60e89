package dev.graphema.collector.access;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.concurrent.Semaphore;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;

/**
 * Hashes of passwords: PBKDF2 (RFC 8018) with HMAC-SHA-512, as {@code pbkdf2-sha512$rounds$salt$hash}. A check takes some tenths of a
 * second, so at most two are made at once. Thread-safe.
 */
final class Passwords {
    static final String PREFIX = "pbkdf2-sha512$";

    /** What OWASP recommended in 2023. */
    private static final int ROUNDS = 210_000;

    private static final int SALT_BYTES = 16;
    private static final int HASH_BITS = 512;
    private static final int PARTS = 4;
    private static final Semaphore AT_ONCE = new Semaphore(2);

    private Passwords() {}

    static String hash(String password) {
        byte[] salt = new byte[SALT_BYTES];
        new SecureRandom().nextBytes(salt);
        Base64.Encoder base64 = Base64.getEncoder().withoutPadding();
        return PREFIX + ROUNDS + "$" + base64.encodeToString(salt) + "$"
                + base64.encodeToString(hash(password, salt, ROUNDS));
    }

    /** Returns whether a password is right; how long that takes does not depend on how much of it is. */
    static boolean isRight(String password, String hash) {
        String[] parts = hash.split("\\$");
        if (parts.length != PARTS || !hash.startsWith(PREFIX)) {
            return false;
        }
        byte[] expected = Base64.getDecoder().decode(parts[3]);
        byte[] found = hash(password, Base64.getDecoder().decode(parts[2]), Integer.parseInt(parts[1]));
        return MessageDigest.isEqual(expected, found);
    }

    private static byte[] hash(String password, byte[] salt, int rounds) {
        AT_ONCE.acquireUninterruptibly();
        try {
            PBEKeySpec spec = new PBEKeySpec(password.toCharArray(), salt, rounds, HASH_BITS);
            return SecretKeyFactory.getInstance("PBKDF2WithHmacSHA512")
                    .generateSecret(spec)
                    .getEncoded();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has PBKDF2WithHmacSHA512", e);
        } finally {
            AT_ONCE.release();
        }
    }

    /** A hash of nothing that anybody knows, so that a check takes as long for names that do not exist. */
    static String ofNobody() {
        byte[] random = new byte[SALT_BYTES];
        new SecureRandom().nextBytes(random);
        return hash(new String(random, StandardCharsets.ISO_8859_1));
    }
}
