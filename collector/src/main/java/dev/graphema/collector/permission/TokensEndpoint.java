package dev.graphema.collector.permission;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.text.FlatJson;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.text.Durations;
import java.io.IOException;
import java.time.Duration;
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;

/** Lets administrators list, create and revoke tokens. Thread-safe. */
public final class TokensEndpoint {
    private static final String MEDIA_TYPE = "application/json";
    private static final List<String> MEMBERS =
            List.of("name", "role", "for", "environment", "when", "hidden", "pseudonyms");

    private final Access access;
    private final Tokens tokens;
    private final Changes changes;
    private final InstantSource clock;

    /** Records changes of tokens. */
    public interface Changes {
        /**
         * @param what {@code token created} or {@code token revoked}
         * @param token its name
         */
        void record(String what, Caller caller, Call call, String token);
    }

    public TokensEndpoint(Access access, Tokens tokens, Changes changes, InstantSource clock) {
        this.access = access;
        this.tokens = tokens;
        this.changes = changes;
        this.clock = clock;
    }

    /** Lists all tokens, without their texts. */
    public void list(Call call) throws Problem, IOException {
        access.require(Role.ADMINISTER, call);
        List<Map<String, String>> all = new ArrayList<>();
        for (Token each : tokens.all()) {
            Map<String, String> members = new LinkedHashMap<>();
            members.put("name", each.name());
            members.put("role", each.role().name().toLowerCase(Locale.ROOT));
            members.put("kind", each.isUser() ? "user" : "token");
            members.put("created", each.created().toString());
            members.put(
                    "expires", each.expires() == null ? null : each.expires().toString());
            members.put("environment", each.environment());
            members.put("when", each.when().isEverything() ? null : each.when().toString());
            members.put("hidden", names(each.hidden()));
            members.put("pseudonyms", names(each.pseudonyms()));
            all.add(members);
        }
        call.send(200, MEDIA_TYPE, FlatJson.of(all));
    }

    private static String names(List<String> names) {
        return names.isEmpty() ? null : String.join(",", names);
    }

    /** Creates a token, and answers with its text. */
    public void create(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.ADMINISTER, call);
        Token token = token(call.body());
        try {
            String text = tokens.create(token);
            changes.record("token created", caller, call, token.name());
            call.send(201, MEDIA_TYPE, "{\"token\":\"" + text + "\"}");
        } catch (IllegalArgumentException e) {
            throw new Problem(409, "The token cannot be created", e.getMessage());
        }
    }

    /** Revokes the token with the name in the parameter {@code name}. */
    public void revoke(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.ADMINISTER, call);
        String name = call.parameter("name");
        if (name == null || !tokens.revoke(name)) {
            throw new Problem(
                    404,
                    "There is no such token",
                    "name is " + (name == null ? "missing" : '"' + name + '"')
                            + ": expected that of a token, as GET /tokens lists them");
        }
        changes.record("token revoked", caller, call, name);
        call.send(200, MEDIA_TYPE, "{\"revoked\":1}");
    }

    private Token token(byte[] body) throws Problem {
        Map<String, String> members;
        try {
            members = FlatJson.read(body);
        } catch (IOException e) {
            throw new Problem(
                    400, "The token cannot be read", "expected a JSON object with name and role: " + e.getMessage());
        }
        for (String each : members.keySet()) {
            if (!MEMBERS.contains(each)) {
                throw new Problem(
                        400,
                        "The token cannot be read",
                        "\"" + each + "\" is not known: expected texts for some of " + String.join(", ", MEMBERS));
            }
        }
        return token(members);
    }

    private Token token(Map<String, String> members) throws Problem {
        String name = members.get("name");
        if (name == null) {
            throw new Problem(400, "The token cannot be read", "name is missing: expected name and role");
        }
        try {
            Role role = Role.valueOf(members.getOrDefault("role", "read").toUpperCase(Locale.ROOT));
            Token token = Token.of(name, role)
                    .in(members.get("environment"))
                    .hiding(names(members.get("hidden")), names(members.get("pseudonyms")));
            if (members.containsKey("when")) {
                token = token.seeing(Condition.parse(members.get("when")));
            }
            if (!members.containsKey("for")) {
                return token;
            }
            Duration duration = Durations.parse(members.get("for"));
            if (duration == null || duration.isNegative() || duration.isZero()) {
                throw new Problem(
                        400, "The token cannot be read", "for is \"" + members.get("for") + "\": expected such as 30d");
            }
            return token.until(clock.instant().plus(duration).truncatedTo(ChronoUnit.SECONDS));
        } catch (ConditionException e) {
            throw new Problem(400, "The token cannot be read", "when: " + e.getMessage());
        } catch (IllegalArgumentException e) {
            throw new Problem(
                    400,
                    "The token cannot be read",
                    "role is \"" + members.get("role") + "\": expected send, read, measure or administer");
        }
    }

    private static List<String> names(String list) {
        return list == null
                ? List.of()
                : Stream.of(list.split(",")).map(String::strip).toList();
    }
}
