package dev.graphema.collector.permission;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.text.FlatJson;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.Map;

/**
 * Lets in one browser: the first that sends a secret, which is then used up, gets a cookie; who has the cookie may read. Other users of
 * the machine, and pages of other sites, have neither. Thread-safe.
 */
public final class OneVisitor implements Access {
    private static final int RANDOM_BYTES = 32;

    /** Cookies do not distinguish ports (RFC 6265, section 8.5), so that each page has a name of its own. */
    private final String cookie = "graphema_visit_" + random();

    private String secret = random();
    private String visit;

    private static String random() {
        byte[] random = new byte[RANDOM_BYTES];
        new SecureRandom().nextBytes(random);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(random);
    }

    /** Returns the secret; null if it is used up. */
    public synchronized String secret() {
        return secret;
    }

    /** Signs in with {@code {"once":…}}; the answer sets the cookie. */
    public void begin(Call call) throws Problem, IOException {
        String once;
        try {
            once = FlatJson.read(call.body()).get("once");
        } catch (IOException e) {
            throw new Problem(400, "The request cannot be read", "expected an object with once");
        }
        synchronized (this) {
            if (!isSame(secret, once)) {
                throw new Problem(
                        401, "Not signed in", "this link was opened before: start graphema page again for a new one");
            }
            secret = null;
            visit = random();
            call.setHeader("Set-Cookie", cookie + "=" + visit + "; Path=/; HttpOnly; SameSite=Strict");
        }
        call.send(200, "application/json", FlatJson.of(Map.of()));
    }

    @Override
    public synchronized Caller require(Role role, Call call) throws Problem {
        if (!isSame(visit, call.cookie(cookie))) {
            throw new Problem(401, "Not allowed", "open the address that graphema page has printed");
        }
        return Caller.anybody();
    }

    /** Compares in constant time. */
    private static boolean isSame(String expected, String given) {
        return expected != null
                && given != null
                && MessageDigest.isEqual(
                        expected.getBytes(StandardCharsets.UTF_8), given.getBytes(StandardCharsets.UTF_8));
    }
}
