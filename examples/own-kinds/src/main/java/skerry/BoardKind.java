package skerry;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import dev.graphema.text.Utf8Buffer;
import java.util.List;

/** A kind of sink: a board at the gate, with a limited number of characters in a row. */
public final class BoardKind implements SinkKind {
    static final Option<Integer> WIDTH =
            Option.count("width", 10, 200).standard(60).meaning("the characters of a row");

    @Override
    public String name() {
        return "board";
    }

    @Override
    public String meaning() {
        return "a board at the gate";
    }

    @Override
    public List<Option<?>> options() {
        return List.of(WIDTH);
    }

    @Override
    public String usualFormat() {
        return "short";
    }

    @Override
    public Sink open(Options options, SinkContext context) {
        return new Board(options.get(WIDTH), context.format());
    }

    /** Only one thread calls it, which serves only this sink. */
    private static final class Board implements Sink {
        private final int width;
        private final Format format;
        private final Utf8Buffer row = new Utf8Buffer(100);

        Board(int width, Format format) {
            this.width = width;
            this.format = format;
        }

        @Override
        public void write(Event event) {
            row.clear();
            format.write(event, row);
            String text = row.toString().strip();
            System.out.println("| " + text.substring(0, Math.min(width, text.length())));
        }
    }
}
