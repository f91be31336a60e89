package dev.graphema.collector.permission;

import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.text.FlatJson;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Base64;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Users who have signed in. A session is a random text in a cookie (RFC 6265) that scripts cannot read and other sites cannot use, of which
 * only the hash is kept, in memory. It ends after some hours, when it is not used, and with the user. Thread-safe.
 */
public final class Sessions {
    private static final String COOKIE = "graphema_session";
    private static final int RANDOM_BYTES = 32;
    private static final Duration LONGEST = Duration.ofHours(12);
    private static final Duration UNUSED = Duration.ofHours(2);
    private static final int MOST = 10_000;

    private final Tokens tokens;
    private final InstantSource clock;
    private final boolean isEncrypted;
    private final FailedAttempts failures;
    private final Map<String, Session> sessions = new LinkedHashMap<>();

    private record Session(String user, Instant since, Instant used) {}

    /**
     * @param isEncrypted whether cookies are sent over TLS only
     * @param failures counts wrong passwords
     */
    Sessions(Tokens tokens, InstantSource clock, boolean isEncrypted, FailedAttempts failures) {
        this.tokens = tokens;
        this.clock = clock;
        this.isEncrypted = isEncrypted;
        this.failures = failures;
    }

    /** Signs in with {@code {"name":…,"password":…}}; the answer sets the cookie. */
    public void begin(Call call) throws Problem, IOException {
        Instant now = clock.instant();
        Map<String, String> body;
        try {
            body = FlatJson.read(call.body());
        } catch (IOException e) {
            throw new Problem(400, "The request cannot be read", "expected an object with name and password");
        }
        String name = body.getOrDefault("name", "");
        String password = body.getOrDefault("password", "");
        requireFewFailures(call.address(), now);
        requireFewFailures("user " + name, now);
        Token user = tokens.findUser(name, password, now);
        if (user == null) {
            failures.failed(call.address(), now);
            failures.failed("user " + name, now);
            throw new Problem(401, "Not signed in", "the name or the password is wrong");
        }
        byte[] random = new byte[RANDOM_BYTES];
        new SecureRandom().nextBytes(random);
        String id = Base64.getUrlEncoder().withoutPadding().encodeToString(random);
        synchronized (this) {
            sessions.values().removeIf(each -> hasEnded(each, now));
            if (sessions.size() >= MOST) {
                throw new Problem(429, "Too many sessions", "too many users are signed in: try again later", 60);
            }
            sessions.put(hash(id), new Session(user.name(), now, now));
        }
        call.setHeader("Set-Cookie", cookie(id, LONGEST));
        call.send(200, "application/json", FlatJson.of(Map.of("name", user.name())));
    }

    private void requireFewFailures(String who, Instant now) throws Problem {
        int wait = failures.wait(who, now);
        if (wait > 0) {
            throw new Problem(429, "Too many wrong passwords", "too many passwords were wrong: try again later", wait);
        }
    }

    private String cookie(String id, Duration age) {
        return COOKIE + "=" + id + "; Path=/; HttpOnly; SameSite=Strict; Max-Age=" + age.toSeconds()
                + (isEncrypted ? "; Secure" : "");
    }

    /** Signs out. */
    public void end(Call call) throws IOException {
        String id = call.cookie(COOKIE);
        synchronized (this) {
            if (id != null) {
                sessions.remove(hash(id));
            }
        }
        call.setHeader("Set-Cookie", cookie("", Duration.ZERO));
        call.send(200, "application/json", "{}");
    }

    /**
     * Returns the user of a request; null if there is no valid session.
     *
     * @throws IOException if the users cannot be read
     */
    Token user(Call call, Instant now) throws IOException {
        String id = call.cookie(COOKIE);
        if (id == null) {
            return null;
        }
        String user;
        synchronized (this) {
            Session session = sessions.get(hash(id));
            if (session == null || hasEnded(session, now)) {
                return null;
            }
            sessions.put(hash(id), new Session(session.user(), session.since(), now));
            user = session.user();
        }
        Token found = tokens.named(user, now);
        return found != null && found.isUser() ? found : null;
    }

    private static boolean hasEnded(Session session, Instant now) {
        return now.isAfter(session.since().plus(LONGEST))
                || now.isAfter(session.used().plus(UNUSED));
    }

    private static String hash(String id) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(id.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every JDK has SHA-256", e);
        }
    }
}
