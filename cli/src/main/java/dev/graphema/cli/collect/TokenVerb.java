package dev.graphema.cli.collect;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Counted;
import dev.graphema.cli.verb.Verb;
import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.condition.Condition;
import dev.graphema.text.Durations;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/** Creates, lists and revokes the tokens of a collector. */
public final class TokenVerb extends Verb {
    private final Argument<String> create = own().text("--create", "NAME", "Creates a token, and prints it: only now.");
    private final Argument<String> revoke = own().text("--revoke", "NAME", "Ends a token at once.");
    private final Argument<Role> role = own().choice(
                    "--role",
                    "ROLE",
                    Role.READ,
                    "What the owner may do: send events, read them, measure the collector, or administer it. Default: read.");
    private final Argument<String> when =
            own().text("--when", "CONDITION", "Which events a reader may see. Default: all.");
    private final Argument<String> hide = own().text(
                    "--hide",
                    "FIELDS",
                    "Fields that a reader does not see, separated by commas: passenger.email,card.");
    private final Argument<String> pseudonyms =
            own().text("--pseudonyms", "FIELDS", "Fields of which a reader sees pseudonyms, separated by commas.");
    private final Argument<String> environment = own().text(
                    "--environment",
                    "NAME",
                    "The environment of what a sender sends, which it cannot change: production.");
    private final Argument<Boolean> password = own().flag(
                    "--password",
                    "Creates a user, who signs in with the name and a password, instead of a token. The password is the first"
                            + " line of the standard input.");
    private final Argument<String> expires =
            own().text("--for", "DURATION", "How long it is valid: 30d. Default: for ever.");
    private final Argument<Path> store =
            own().path("--store", "DIR", "The folder of the collector's store. Default: store.");

    public TokenVerb() {
        super("token", "Creates, lists and revokes the tokens with which programs and people reach a collector.");
    }

    @Override
    protected String details() {
        return "With the first token, a collector lets in only those who have one; it need not be started again. A token to send"
                + " belongs into the settings of a sink (token: ${COLLECTOR_TOKEN}). The search commands take one to read from the"
                + " variable GRAPHEMA_TOKEN, or from the file that GRAPHEMA_TOKEN_FILE names. Without --create and --revoke, all"
                + " tokens are listed.";
    }

    @Override
    protected String examples() {
        return """
                graphema token --create deck --role send --store store
                graphema token --create mara --when 'service in (deck, gate)' --for 90d --store store
                graphema token --create support --hide pin,card --pseudonyms passenger.mail --store store
                graphema token --store store
                graphema token --revoke mara --store store
                """;
    }

    @Override
    public int call() throws IOException, MisuseException {
        Path folder = store.isGiven() ? store.value() : Path.of("store");
        if (create.isGiven() && revoke.isGiven()) {
            throw new MisuseException("--create and --revoke are both given: expected one of the two");
        }
        if (!Files.isDirectory(folder)) {
            throw new MisuseException(
                    "there is no folder " + folder + ": name that of the collector's store with --store");
        }
        Tokens tokens = new Tokens(folder);
        if (create.isGiven()) {
            create(tokens);
        } else if (revoke.isGiven()) {
            if (!tokens.revoke(revoke.value())) {
                throw new MisuseException("there is no token \"" + revoke.value() + "\": list them without --revoke");
            }
            console().print("the token " + revoke.value() + " is revoked");
        } else {
            list(tokens, folder);
        }
        return 0;
    }

    private void create(Tokens tokens) throws IOException, MisuseException {
        Condition visible = when.isGiven() ? Condition.parse(when.value()) : Condition.EVERYTHING;
        if (role.value() != Role.READ && !visible.isEverything()) {
            throw new MisuseException("--when restricts what a reader sees: expected --role read, or no --when");
        }
        boolean isMasked = hide.isGiven() || pseudonyms.isGiven();
        if (role.value() != Role.READ && isMasked) {
            throw new MisuseException(
                    "--hide and --pseudonyms restrict what a reader sees: expected --role read, or none of them");
        }
        if (role.value() != Role.SEND && environment.isGiven()) {
            throw new MisuseException(
                    "--environment is that of what is sent: expected --role send, or no --environment");
        }
        Token token = Token.of(create.value(), role.value())
                .until(end())
                .in(environment.isGiven() ? environment.value() : null)
                .seeing(visible)
                .hiding(names(hide), names(pseudonyms));
        try {
            if (password.value()) {
                tokens.createUser(token, readPassword());
                console().print("the user " + token.name() + " can sign in");
                return;
            }
            console().print(tokens.create(token));
        } catch (IllegalArgumentException e) {
            throw new MisuseException(e.getMessage());
        }
        console().note("this token is shown only now: keep it as a secret");
    }

    private String readPassword() throws IOException, MisuseException {
        console().note("type the password, and Enter");
        String line = new BufferedReader(new InputStreamReader(console().input(), StandardCharsets.UTF_8)).readLine();
        if (line == null) {
            throw new MisuseException("there is no password: expected it as the first line of the standard input");
        }
        return line;
    }

    private static List<String> names(Argument<String> list) {
        return list.isGiven()
                ? Stream.of(list.value().split(",")).map(String::strip).toList()
                : List.of();
    }

    private Instant end() throws MisuseException {
        if (!expires.isGiven()) {
            return null;
        }
        Duration duration = Durations.parse(expires.value());
        if (duration == null || duration.isNegative() || duration.isZero()) {
            throw new MisuseException(
                    "--for " + expires.value() + " is not a valid duration: expected one such as 30d");
        }
        return Instant.now().plus(duration).truncatedTo(ChronoUnit.SECONDS);
    }

    private void list(Tokens tokens, Path folder) throws IOException {
        List<Token> all = tokens.all();
        for (Token each : all) {
            console()
                    .print(each.name() + (each.isUser() ? "  (user) may " : "  may ")
                            + each.role().name().toLowerCase(Locale.ROOT)
                            + (each.when().isEverything() ? "" : " events with " + each.when())
                            + (each.environment() == null ? "" : " in " + each.environment())
                            + (each.hidden().isEmpty() ? "" : ", without " + String.join(", ", each.hidden()))
                            + (each.pseudonyms().isEmpty()
                                    ? ""
                                    : ", pseudonyms of " + String.join(", ", each.pseudonyms()))
                            + (each.expires() == null ? "" : ", until " + each.expires())
                            + ", created " + each.created().truncatedTo(ChronoUnit.SECONDS));
        }
        String none = tokens.areNeeded()
                ? "all tokens of " + folder + " are revoked: nobody may send or read"
                : "there is no token in " + folder + ": everybody on the collector's machine may send and read";
        console().note(all.isEmpty() ? none : Counted.of(all.size(), "token"));
    }
}
