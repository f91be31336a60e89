/** A sink that writes events into a table of a database, and such tables as a source of events. */
@SuppressWarnings("module") // the module to which a package is exported is compiled later
module dev.graphema.sql {
    requires transitive dev.graphema.core;
    requires transitive java.sql;
    // Only for tables as a source: who only writes needs neither.
    requires static transitive dev.graphema.query;
    requires static transitive dev.graphema.lines;

    exports dev.graphema.sql;
    exports dev.graphema.sql.source;
    exports dev.graphema.sql.table to
            dev.graphema.spark;

    provides dev.graphema.sink.SinkKind with
            dev.graphema.sql.SqlKind;
}
