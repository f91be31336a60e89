/** Line files and streams as a source of events. */
@SuppressWarnings("module") // the module to which packages are exported is compiled later
module dev.graphema.lines {
    requires transitive dev.graphema.query;
    requires com.fasterxml.jackson.core;
    requires transitive org.snakeyaml.engine;
    requires transitive re2j;
    requires com.github.luben.zstd_jni;

    exports dev.graphema.lines;
    exports dev.graphema.lines.shape;
    exports dev.graphema.lines.time;
    exports dev.graphema.lines.form to
            dev.graphema.collector,
            dev.graphema.remote,
            dev.graphema.segments,
            dev.graphema.sql;
    exports dev.graphema.lines.json to
            dev.graphema.segments;
    exports dev.graphema.lines.stack to
            dev.graphema.collector;
    exports dev.graphema.lines.yaml to
            dev.graphema.collector,
            dev.graphema.segments;
}
