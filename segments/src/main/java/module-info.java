/** Files of events in columns, as a source. */
module dev.graphema.segments {
    requires transitive dev.graphema.query;
    requires transitive dev.graphema.lines;
    requires com.fasterxml.jackson.core;
    requires org.snakeyaml.engine;
    requires com.github.luben.zstd_jni;

    exports dev.graphema.segments;
    exports dev.graphema.segments.store;

    provides dev.graphema.sink.ArchiveForm with
            dev.graphema.segments.SegmentArchive;
}
