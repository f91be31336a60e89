package skerry;

import dev.graphema.format.Destination;
import dev.graphema.format.Format;
import dev.graphema.format.FormatKind;
import dev.graphema.option.Options;
import dev.graphema.text.Escapes;

/** A kind of format: the level and the message, one event on a line. */
public final class ShortKind implements FormatKind {
    @Override
    public String name() {
        return "short";
    }

    @Override
    public String meaning() {
        return "level and message";
    }

    @Override
    public Format make(Options options, Destination destination) {
        return (event, to) -> {
            // A message can contain anything; visible() leaves no line feed or control character in it.
            String message = event.message() == null ? "-" : Escapes.visible(event.message());
            to.ascii(event.level().text()).ascii(": ").text(message).ascii('\n');
        };
    }
}
