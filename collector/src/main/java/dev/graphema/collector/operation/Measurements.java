package dev.graphema.collector.operation;

import dev.graphema.collector.http.Requests;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.Redaction;
import dev.graphema.collector.live.LiveReaders;
import dev.graphema.collector.question.Questions;
import dev.graphema.segments.store.Store;
import java.util.function.Consumer;

/** The measurements of a collector as text in the format OpenMetrics 1.0. Thread-safe. */
public final class Measurements {
    /** The media type. */
    public static final String MEDIA_TYPE = "application/openmetrics-text; version=1.0.0; charset=utf-8";

    private final Parts parts;
    private final long started = System.nanoTime();

    /**
     * What is measured.
     *
     * @param redaction null for none
     */
    public record Parts(
            Store store,
            Intake intake,
            Redaction redaction,
            Questions questions,
            LiveReaders live,
            Requests requests) {}

    public Measurements(Parts parts) {
        this.parts = parts;
    }

    /** Returns all measurements. */
    public String text() {
        StringBuilder text = new StringBuilder();
        family(
                text,
                "stored_events",
                "counter",
                "Stored events and lines since the start.",
                to -> to.accept("_total", parts.intake().events()));
        family(
                text,
                "stored_bytes",
                "counter",
                "Bytes of stored lines since the start.",
                to -> to.accept("_total", parts.intake().bytes()));
        family(
                text,
                "refused_batches",
                "counter",
                "Batches that the disk did not accept.",
                to -> to.accept("_total", parts.intake().refused()));
        family(
                text,
                "requests",
                "counter",
                "Answered requests.",
                to -> parts.requests()
                        .counts()
                        .forEach((request, count) -> to.accept(
                                "_total{request=" + quoted(request.request()) + ",status=\"" + request.status() + "\"}",
                                count)));
        if (parts.redaction() != null) {
            family(
                    text,
                    "redactions",
                    "counter",
                    "Secrets that were replaced, by rule and source.",
                    to -> parts.redaction()
                            .counts()
                            .forEach((counted, count) -> to.accept(
                                    "_total{rule=" + quoted(counted.rule()) + ",source=" + quoted(counted.source())
                                            + "}",
                                    count)));
        }
        state(text);
        Runtime runtime = Runtime.getRuntime();
        family(
                text,
                "heap_bytes",
                "gauge",
                "Used memory of the heap.",
                to -> to.accept("", runtime.totalMemory() - runtime.freeMemory()));
        family(
                text,
                "up_seconds",
                "gauge",
                "Seconds since the start.",
                to -> to.accept("", (System.nanoTime() - started) / 1_000_000_000));
        return text.append("# EOF\n").toString();
    }

    private void state(StringBuilder text) {
        Store.Contents contents = parts.store().contents();
        family(text, "segments", "gauge", "Segments of the store.", to -> to.accept("", contents.segments()));
        family(text, "segment_lines", "gauge", "Lines in segments.", to -> to.accept("", contents.lines()));
        family(text, "segment_bytes", "gauge", "Bytes of segments.", to -> to.accept("", contents.bytes()));
        family(
                text,
                "deleted_lines",
                "counter",
                "Lines deleted by rules since the start.",
                to -> to.accept("_total", contents.deletedLines()));
        family(
                text,
                "questions_in_progress",
                "gauge",
                "Questions that are being answered.",
                to -> to.accept("", parts.questions().inProgress()));
        family(
                text,
                "live_readers",
                "gauge",
                "Connected readers of live events.",
                to -> to.accept("", parts.live().connected()));
    }

    /** Receives the end of a name, with labels, and the value. */
    private interface Samples {
        void accept(String suffix, long value);
    }

    private static void family(StringBuilder text, String name, String type, String help, Consumer<Samples> samples) {
        String whole = "graphema_collector_" + name;
        text.append("# TYPE ").append(whole).append(' ').append(type).append('\n');
        text.append("# HELP ").append(whole).append(' ').append(help).append('\n');
        samples.accept((suffix, value) ->
                text.append(whole).append(suffix).append(' ').append(value).append('\n'));
    }

    private static String quoted(String value) {
        return '"' + value.replace("\\", "\\\\").replace("\"", "\\\"").replace("\n", "\\n") + '"';
    }
}
