package dev.graphema.collector.permission;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.condition.Condition;
import java.io.IOException;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;

/** Decides whether a request is allowed. Until the first token is created, everybody on this machine may do everything. Thread-safe. */
public final class Access {
    private static final String BEARER = "bearer ";
    private static final List<String> PARAMETERS = List.of("token", "access_token");

    private final Tokens tokens;
    private final InstantSource clock;
    private final Consumer<String> problems;

    /** @param problems receives what the operator should know */
    public Access(Tokens tokens, InstantSource clock, Consumer<String> problems) {
        this.tokens = tokens;
        this.clock = clock;
        this.problems = problems;
    }

    /**
     * Checks who sends a request (RFC 6750).
     *
     * @return which events the sender may see
     * @throws Problem if it is not allowed
     */
    public Condition require(Role role, Call call) throws Problem {
        for (String each : PARAMETERS) {
            if (call.parameter(each) != null) {
                throw new Problem(
                        400,
                        "A token in the address",
                        "addresses are logged, so that a token in one is known to others: send it in the header Authorization:"
                                + " Bearer, and revoke this one");
            }
        }
        Token token;
        try {
            if (!tokens.areNeeded()) {
                return Condition.EVERYTHING;
            }
            String header = call.header("Authorization");
            boolean isBearer = header != null && header.toLowerCase(Locale.ROOT).startsWith(BEARER);
            token = isBearer ? tokens.find(header.substring(BEARER.length()).strip(), clock.instant()) : null;
        } catch (IOException e) {
            problems.accept("nobody is let in: " + e.getMessage());
            throw new Problem(503, "Nobody is let in", "the tokens of the collector cannot be read: ask its operator");
        }
        if (token == null) {
            throw new Problem(
                    401,
                    "Not allowed",
                    "a valid token is needed, in the header Authorization: Bearer; the operator creates one with graphema token");
        }
        if (token.role() != role) {
            throw new Problem(
                    403,
                    "Not allowed",
                    "this token is to " + token.role().name().toLowerCase(Locale.ROOT) + " only: use one to "
                            + role.name().toLowerCase(Locale.ROOT));
        }
        return token.when();
    }
}
