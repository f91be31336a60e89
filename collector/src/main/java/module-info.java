/** A server that receives events over open protocols, keeps them in a store, and answers questions. */
@SuppressWarnings("module") // the module to which a package is exported is compiled later
module dev.graphema.collector {
    requires transitive dev.graphema.query;
    requires dev.graphema.lines;
    requires dev.graphema.remote;
    requires dev.graphema.segments;
    requires com.fasterxml.jackson.core;
    requires com.github.luben.zstd_jni;
    requires com.google.protobuf;
    requires io.opentelemetry.proto;
    requires jakarta.mail;
    requires java.net.http;
    requires org.apache.tomcat.embed.core;

    exports dev.graphema.collector;
    exports dev.graphema.collector.access;
    exports dev.graphema.collector.alert;
    exports dev.graphema.collector.input;
    exports dev.graphema.collector.page to
            dev.graphema.cli;
    exports dev.graphema.collector.settings;

    uses dev.graphema.collector.input.TopicReader;
}
