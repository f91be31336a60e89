package dev.graphema.lines;

import static java.nio.charset.StandardCharsets.UTF_8;

import dev.graphema.event.Event;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import java.io.ByteArrayInputStream;
import java.util.List;

class LineStreamContractTest extends SourceContract {
    @Override
    public EventSource source(List<Event> events) {
        StringBuilder text = new StringBuilder();
        events.forEach(event -> text.append(Samples.text(event)));
        return new LineStream(new ByteArrayInputStream(text.toString().getBytes(UTF_8)));
    }
}
