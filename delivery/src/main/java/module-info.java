/** Sinks that deliver events to other systems: HTTP, OTLP and syslog. */
module dev.graphema.delivery {
    requires transitive dev.graphema.core;
    requires com.fasterxml.jackson.core;
    requires java.net.http;

    exports dev.graphema.delivery;

    provides dev.graphema.sink.SinkKind with
            dev.graphema.delivery.HttpKind,
            dev.graphema.delivery.OtlpKind,
            dev.graphema.delivery.SyslogKind;
}
