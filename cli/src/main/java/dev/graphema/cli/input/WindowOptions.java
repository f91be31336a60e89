package dev.graphema.cli.input;

import dev.graphema.cli.arguments.Argument;
import dev.graphema.cli.arguments.Group;
import dev.graphema.query.typed.TypedWindow;
import java.util.function.BiConsumer;

/** The options for a time window. */
final class WindowOptions {
    private final Argument<String> from;
    private final Argument<String> to;
    private final Argument<String> last;
    private final Argument<String> during;
    private final Argument<String> around;
    private final Argument<String> within;

    WindowOptions(Group when) {
        from = when.text(
                "--from",
                "TIME",
                "The start of the window: 2026-05-15T07:10, with or without an offset such as Z or +01:00, a date, 07:10,"
                        + " 'yesterday 09:00', friday, '2h ago'.");
        to = when.text("--to", "TIME", "The end of the window (exclusive), in the form of --from.");
        last = when.text("--last", "DURATION", "The last period: 15m, 2h, 3d.");
        during = when.text(
                "--during",
                "INTERVAL",
                "An interval as in ISO 8601: 2026-05-15T07:10/2026-05-15T07:50 or 2026-05-15T07:10/PT40M.");
        around = when.text("--around", "TIME", "A time, with --within before and after it.");
        within = when.text("--within", "DURATION", "The time before and after --around. Default: 5m.");
    }

    TypedWindow typedWindow() {
        return new TypedWindow(from.value(), to.value(), last.value(), during.value(), around.value(), within.value());
    }

    /** Returns the options as they are typed in a page, where values are not quoted. */
    String typed() {
        StringBuilder typed = new StringBuilder();
        given((option, value) -> {
            if (value != null) {
                typed.append(' ').append(option).append(' ').append(value);
            }
        });
        return typed.toString().strip();
    }

    /** Adds the options for a suggested command. */
    void again(StringBuilder to) {
        given((option, value) -> InputOptions.add(to, option, value));
    }

    private void given(BiConsumer<String, String> receiver) {
        receiver.accept("--from", from.value());
        receiver.accept("--to", to.value());
        receiver.accept("--last", last.value());
        receiver.accept("--during", during.value());
        receiver.accept("--around", around.value());
        receiver.accept("--within", within.value());
    }
}
