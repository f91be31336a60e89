/** A collector as a source of events. */
module dev.graphema.remote {
    requires transitive dev.graphema.query;
    requires dev.graphema.lines;
    requires com.fasterxml.jackson.core;
    requires java.net.http;

    exports dev.graphema.remote;
}
