package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.query.contract.SourceContract;
import dev.graphema.query.source.EventSource;
import dev.graphema.sql.WrittenTables;
import java.io.IOException;
import java.util.List;

abstract class SqlContract extends SourceContract {
    abstract String database();

    @Override
    public EventSource source(List<Event> events) throws IOException {
        String url = WrittenTables.url(database());
        String table = WrittenTables.newName();
        WrittenTables.write(url, table, events);
        return SqlSource.of(url, null, null, table);
    }
}
