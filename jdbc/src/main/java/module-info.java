/** A sink that writes events into a table of a database. */
module dev.graphema.jdbc {
    requires transitive dev.graphema.core;
    requires transitive java.sql;

    exports dev.graphema.jdbc;

    provides dev.graphema.sink.SinkKind with
            dev.graphema.jdbc.SqlKind;
}
