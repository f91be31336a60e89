package dev.graphema.collector.permission;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/**
 * Decides whether a request is allowed. If only this machine can reach the collector, everybody on it may do everything until the first
 * token is created. Thread-safe.
 */
public final class TokenAccess implements Access {
    private static final String BEARER = "bearer ";
    private static final List<String> PARAMETERS = List.of("token", "access_token");
    private static final Pattern THIS_MACHINE =
            Pattern.compile("(?i)(localhost|127(\\.[0-9]{1,3}){3}|\\[::1\\])(:[0-9]{1,5})?");

    private final Tokens tokens;
    private final Masks masks;
    private final boolean isReachable;
    private final InstantSource clock;
    private final Consumer<String> problems;
    private final FailedAttempts failures = new FailedAttempts();
    private final Sessions sessions;

    /**
     * @param store the folder of the store, with the tokens
     * @param isReachable whether other machines can reach the collector, so that everybody needs a token
     * @param isEncrypted whether all requests are sent over TLS
     * @param problems receives what the operator should know
     */
    public TokenAccess(
            Path store, boolean isReachable, boolean isEncrypted, InstantSource clock, Consumer<String> problems) {
        this.tokens = new Tokens(store);
        this.masks = new Masks(store);
        this.isReachable = isReachable;
        this.clock = clock;
        this.problems = problems;
        this.sessions = new Sessions(tokens, clock, isEncrypted, failures);
    }

    /** Returns the sessions of users who have signed in. */
    public Sessions sessions() {
        return sessions;
    }

    /** As RFC 6750 prescribes. */
    @Override
    public Caller require(Role role, Call call) throws Problem {
        for (String each : PARAMETERS) {
            if (call.parameter(each) != null) {
                throw new Problem(
                        400,
                        "A token in the address",
                        "addresses are logged, so that a token in one is known to others: send it in the header Authorization:"
                                + " Bearer, and revoke this one");
            }
        }
        if (!isTokenNeeded()) {
            requireThisMachine(call);
            return Caller.anybody();
        }
        Instant now = clock.instant();
        Token token = token(call, now);
        if (token == null) {
            // A valid token is accepted all the same: behind a proxy, all requests come from one address.
            int wait = failures.wait(call.address(), now);
            if (wait > 0) {
                throw new Problem(
                        429,
                        "Too many wrong tokens",
                        "this address has sent too many wrong tokens: try again later",
                        wait);
            }
            failures.failed(call.address(), now);
            throw new Problem(
                    401,
                    "Not allowed",
                    "a valid token is needed, in the header Authorization: Bearer; the operator creates one with graphema token");
        }
        if (!token.role().includes(role)) {
            throw new Problem(
                    403, "Not allowed", "this token is to " + name(token.role()) + " only: use one to " + name(role));
        }
        try {
            return new Caller(token, masks.of(token));
        } catch (IOException | IllegalArgumentException e) {
            problems.accept("the key for pseudonyms cannot be used: " + e.getMessage());
            throw new Problem(503, "Nothing can be shown", "the key for pseudonyms cannot be read: ask the operator");
        }
    }

    private boolean isTokenNeeded() {
        return isReachable || tokens.areNeeded();
    }

    /** A page of another site that is open in a browser on this machine can send requests here under a name of its own. */
    private static void requireThisMachine(Call call) throws Problem {
        String host = call.header("Host");
        if (host == null || !THIS_MACHINE.matcher(host).matches()) {
            throw new Problem(
                    403,
                    "Not allowed",
                    "without tokens, only requests to 127.0.0.1 or localhost are answered: create a token with graphema token");
        }
    }

    private Token token(Call call, Instant now) throws Problem {
        String header = call.header("Authorization");
        try {
            if (header == null) {
                return sessions.user(call, now);
            }
            return header.toLowerCase(Locale.ROOT).startsWith(BEARER)
                    ? tokens.find(header.substring(BEARER.length()).strip(), now)
                    : null;
        } catch (IOException e) {
            problems.accept("nobody is let in: " + e.getMessage());
            throw new Problem(503, "Nobody is let in", "the tokens of the collector cannot be read: ask its operator");
        }
    }

    private static String name(Role role) {
        return role.name().toLowerCase(Locale.ROOT);
    }
}
