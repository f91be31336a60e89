/** Files of events in columns, as a source. */
module dev.graphema.segments {
    requires transitive dev.graphema.query;
    requires transitive dev.graphema.lines;
    requires com.github.luben.zstd_jni;

    exports dev.graphema.segments;
}
