/** A sink that writes events into a topic of Kafka, and such topics as an input of the collector. */
module dev.graphema.kafka {
    requires transitive dev.graphema.core;
    requires kafka.clients;
    // Only for topics as an input: who only writes does not need it.
    requires static dev.graphema.collector;

    exports dev.graphema.kafka;

    provides dev.graphema.sink.SinkKind with
            dev.graphema.kafka.KafkaKind;
// The reader is found by META-INF/services, on the class path and with --with: as a service of the module, it would
// need the collector
// to be present in every program that only writes.
}
