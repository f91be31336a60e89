/** Structured log events: emission, routing, sampling, redaction and sinks. */
@SuppressWarnings("module") // the module to which a package is exported is compiled later
module dev.graphema.core {
    requires java.logging;
    requires java.management;
    requires org.snakeyaml.engine;
    requires re2j;

    exports dev.graphema;
    exports dev.graphema.batch;
    exports dev.graphema.condition;
    exports dev.graphema.event;
    exports dev.graphema.explain;
    exports dev.graphema.format;
    exports dev.graphema.holdback;
    exports dev.graphema.management;
    exports dev.graphema.option;
    exports dev.graphema.platform;
    exports dev.graphema.redaction;
    exports dev.graphema.sampling;
    exports dev.graphema.settings;
    exports dev.graphema.sink;
    exports dev.graphema.terminal;
    exports dev.graphema.text;
    exports dev.graphema.trace;
    exports dev.graphema.background to
            dev.graphema.delivery;

    uses dev.graphema.format.FormatKind;
    uses dev.graphema.redaction.Detector;
    uses dev.graphema.sink.ArchiveForm;
    uses dev.graphema.sink.SinkKind;
}
