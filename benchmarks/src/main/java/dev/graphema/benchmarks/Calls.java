package dev.graphema.benchmarks;

import dev.graphema.Context;
import dev.graphema.Logger;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.format.Columns;
import dev.graphema.format.Format;
import dev.graphema.format.JsonLines;
import dev.graphema.format.KeyValue;
import dev.graphema.format.OtlpJson;
import dev.graphema.format.SyslogLines;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ThreadLocalRandom;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;

/** Benchmarks of single calls, and of their lower bounds. */
@State(Scope.Thread)
public class Calls {
    private static final String TEXT_WITHOUT_SECRET =
            "the vehicle deck has room for a coach of twelve metres in lane A3, sailing SK-204, 38 passengers aboard";

    private volatile int threshold = Level.INFO.severity();
    private final Utf8Buffer buffer = new Utf8Buffer(4096);
    private final Format json = new JsonLines();
    private final Format columns = Columns.of(ZoneOffset.UTC, 0, Paint.NONE);
    private final Format keyValue = new KeyValue();
    private final Format syslog = SyslogLines.of(1);
    private final Format otlp = new OtlpJson();
    private final Map<String, Object> map = new HashMap<>();
    private Setting setting;
    private Logger log;
    private Redactor redactor;
    private Sampler sampler;
    private Draft draft;
    private Condition route;
    private EventRecord record;
    private Event event;

    @Setup
    public void prepare() throws IOException {
        setting = new Setting(Setting.USUAL);
        log = setting.log();
        redactor = RedactionSettings.USUAL.redactor();
        sampler = new Sampler(
                List.of(new SamplingRule(Condition.parse("logger = skerry.gate"), 20, true)),
                () -> ThreadLocalRandom.current().nextLong());
        draft = new Draft().level(Level.INFO).logger("skerry.gate").message("m").trace(new TraceId(1, 2), null, null);
        route = Condition.parse("level >= warn and service = deck and lock_wait_ms > 250");
        event = new Draft()
                .time(1_778_826_662_123_456_789L)
                .level(Level.WARN)
                .service("deck")
                .instance("deck-1")
                .logger("skerry.deck.Lanes")
                .message("lane not free")
                .thread("pool-1-thread-7")
                .trace(new TraceId(0x4bf92f3577b34da6L, 0xa3ce929d0e0e4736L), new SpanId(0x00f067aa0ba902b7L), null)
                .fields(f -> f.put("lane", "A3")
                        .put("lock_wait_ms", 300)
                        .put("vehicle", "coach")
                        .put("length_m", 12.5)
                        .put("booking", "B0047113")
                        .put("sailing", "SK-204")
                        .put("tenant", "skerry"))
                .finish();
        record = EventRecord.of(new EventBytes().write(event).copy());
    }

    @TearDown
    public void end() throws IOException {
        setting.close();
    }

    @Benchmark
    public boolean limitVolatileReadAndCompare() {
        return Level.DEBUG.severity() >= threshold;
    }

    @Benchmark
    public void refused() {
        log.debug("lane taken", f -> f.put("lane", "A3").put("lock_wait_ms", 2));
    }

    @Benchmark
    public int limitOnePassOverText() {
        int sum = 0;
        for (int i = 0; i < TEXT_WITHOUT_SECRET.length(); i++) {
            sum += TEXT_WITHOUT_SECRET.charAt(i);
        }
        return sum;
    }

    @Benchmark
    public String redaction() {
        return redactor.redact(TEXT_WITHOUT_SECRET);
    }

    @Benchmark
    public long samplingDecision() {
        return sampler.weight(draft);
    }

    @Benchmark
    public boolean routeOfThreeParts() {
        return route.matches(event);
    }

    @Benchmark
    public int limitThreeEntriesInAHashMap() {
        map.put("gate", "gate-3");
        map.put("pass", "P000812");
        map.put("queue", 3);
        int size = map.size();
        map.remove("gate");
        map.remove("pass");
        map.remove("queue");
        return size;
    }

    @Benchmark
    public void contextScope() {
        Context.open(f -> f.put("gate", "gate-3").put("pass", "P000812").put("queue", 3))
                .close();
    }

    @Benchmark
    public int writeJson() {
        return write(json);
    }

    @Benchmark
    public int writeColumns() {
        return write(columns);
    }

    @Benchmark
    public int writeKeyValue() {
        return write(keyValue);
    }

    @Benchmark
    public int writeSyslog() {
        return write(syslog);
    }

    @Benchmark
    public int writeOtlp() {
        return write(otlp);
    }

    private int write(Format format) {
        buffer.clear();
        format.write(record, buffer);
        return buffer.length();
    }
}
