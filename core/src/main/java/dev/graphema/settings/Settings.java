package dev.graphema.settings;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.Formats;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.pipeline.Route;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.Sink;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;

/**
 * Everything that can be set. Immutable; made by a {@link Builder} or read from a file by {@link SettingsFile}.
 *
 * <p>Without any setting: info and above on standard output, in columns on a terminal and as JSON elsewhere, redacted by all ready detectors, nothing thinned.
 */
public final class Settings {
    private final String service;
    private final String instance;
    private final Thresholds thresholds;
    private final List<String> callers;
    private final ContextExchange contextExchange;
    private final RedactionSettings redaction;
    private final List<SamplingRule> sampling;
    private final HoldBackRule holdBack;
    private final Map<String, SinkSettings> sinks;
    private final List<Route> routes;
    private final boolean synchronous;
    private final boolean firstMatch;
    private final boolean detailMarks;
    private final Duration watchEvery;
    private final Map<String, String> places;
    private final Path spoolPath;
    private final long spoolTotal;
    private final Map<String, Function<? super Event, String>> values;

    private Settings(Builder builder) {
        service = builder.service;
        instance = builder.instance;
        thresholds = new Thresholds(builder.standardLevel, builder.levels);
        callers = List.copyOf(builder.callers);
        contextExchange = builder.contextExchange;
        redaction = builder.redaction;
        sampling = List.copyOf(builder.sampling);
        holdBack = builder.holdBack;
        routes = List.copyOf(builder.routes);
        places = Map.copyOf(builder.places);
        synchronous = builder.synchronous;
        firstMatch = builder.firstMatch;
        detailMarks = builder.detailMarks;
        watchEvery = builder.watchEvery;
        spoolPath = builder.spoolPath;
        spoolTotal = builder.spoolTotal;
        values = Map.copyOf(builder.values);
        sinks = new LinkedHashMap<>(builder.sinks);
        if (sinks.isEmpty()) {
            sinks.put("screen", SinkSettings.console().format(Formats.AUTO));
        }
    }

    public static Builder builder() {
        return new Builder();
    }

    /** The name under which every event goes out, or null. */
    public String service() {
        return service;
    }

    /** Which of the service's instances this is, or null. */
    public String instance() {
        return instance;
    }

    public Thresholds thresholds() {
        return thresholds;
    }

    /** Whether events of that logger are to tell the class, method and line that said them. */
    public boolean tellsCaller(String logger) {
        return callers.stream()
                .anyMatch(branch ->
                        logger.equals(branch) || logger.startsWith(branch) && logger.charAt(branch.length()) == '.');
    }

    /** The loggers, with all below them, whose events tell where they were said. */
    public List<String> callers() {
        return callers;
    }

    /** The fields of the context that leave the process with outgoing calls, as W3C Baggage. */
    public List<String> contextOut() {
        return contextExchange.out();
    }

    /** What goes out to the services that are called, and what is taken from callers. */
    public ContextExchange contextExchange() {
        return contextExchange;
    }

    /** What is hidden, and how. */
    public RedactionSettings redaction() {
        return redaction;
    }

    public List<SamplingRule> sampling() {
        return sampling;
    }

    /** What is held back until it is known whether it is needed, if anything is. */
    public Optional<HoldBackRule> holdBack() {
        return Optional.ofNullable(holdBack);
    }

    /** The sinks by name, in the order in which they were set; at least one. */
    public Map<String, SinkSettings> sinks() {
        return java.util.Collections.unmodifiableMap(sinks);
    }

    /** The routes; none means that every event goes to every sink. */
    public List<Route> routes() {
        return routes;
    }

    /**
     * Where something was set: {@code graphema.yaml:3:12}, or {@code the program}; empty for a default.
     *
     * @param what {@code levels.LOGGER}, {@code levels.default}, {@code sinks.NAME}, {@code hold-back}, {@code routes.INDEX} or {@code
     *     sampling.INDEX}, counted from 0
     */
    public String place(String what) {
        return places.getOrDefault(what, "");
    }

    /** Whether an event goes by the first route that takes it alone, and not by every one. */
    public boolean firstMatch() {
        return firstMatch;
    }

    /** How often the settings file is looked at for changes; nothing for never. */
    public Duration watchEvery() {
        return watchEvery;
    }

    /** Whether callers may ask, by baggage, for more detail about their requests. */
    public boolean takesDetailMarks() {
        return detailMarks;
    }

    /** Whether each event is written at once, by the caller's thread. */
    public boolean synchronous() {
        return synchronous;
    }

    /** The folder for what cannot be written at once; {@code {service}} and {@code {instance}} in it are replaced. */
    public Path spoolPath() {
        return spoolPath;
    }

    /** How many bytes may lie there for each sink. */
    public long spoolTotal() {
        return spoolTotal;
    }

    /** Values of the program's own, for formats that ask for them by name. */
    public Map<String, Function<? super Event, String>> values() {
        return values;
    }

    /** Gathers settings. Each method refuses a bad value at once; rules across settings are checked by {@link #build}. */
    public static final class Builder {
        private static final String PROGRAM = "the program";

        private String service;
        private String instance;
        private Level standardLevel = Level.INFO;
        private final Map<String, Level> levels = new LinkedHashMap<>();
        private List<String> callers = List.of();
        private ContextExchange contextExchange = ContextExchange.USUAL;
        private RedactionSettings redaction = RedactionSettings.USUAL;
        private final List<SamplingRule> sampling = new ArrayList<>();
        private HoldBackRule holdBack;
        private final Map<String, SinkSettings> sinks = new LinkedHashMap<>();
        private final List<Route> routes = new ArrayList<>();
        private boolean synchronous;
        private boolean firstMatch;
        private boolean detailMarks;
        private Duration watchEvery = Duration.ofSeconds(2);
        private final Map<String, String> places = new LinkedHashMap<>();
        private Path spoolPath = Path.of("spool", "{service}-{instance}");
        private long spoolTotal = 256L * 1024 * 1024;
        private final Map<String, Function<? super Event, String>> values = new LinkedHashMap<>();

        private Builder() {}

        /** Notes where something is set; see {@link Settings#place}. */
        void place(String what, String where) {
            places.put(what, where);
        }

        boolean hasSink(String name) {
            return sinks.containsKey(name);
        }

        int samplingCount() {
            return sampling.size();
        }

        int routeCount() {
            return routes.size();
        }

        public Builder service(String service) {
            this.service = Objects.requireNonNull(service, "service");
            return this;
        }

        public Builder instance(String instance) {
            this.instance = Objects.requireNonNull(instance, "instance");
            return this;
        }

        /** The threshold of every logger for which nothing else is set. Info by default. */
        public Builder level(Level threshold) {
            standardLevel = Objects.requireNonNull(threshold, "threshold");
            places.putIfAbsent("levels.default", PROGRAM);
            return this;
        }

        /** The threshold of the logger of that dotted name and of all below it. */
        public Builder level(String logger, Level threshold) {
            levels.put(Objects.requireNonNull(logger, "logger"), Objects.requireNonNull(threshold, "threshold"));
            places.putIfAbsent("levels." + logger, PROGRAM);
            return this;
        }

        /**
         * The loggers, with all below them, whose events tell the class, method and line that said them, in the field {@code
         * caller}; none by default. Finding it walks the stack: about four microseconds for each event, several times what
         * all else costs the caller.
         */
        public Builder caller(String... loggers) {
            callers = List.of(loggers);
            return this;
        }

        /**
         * The fields of the context that leave the process with outgoing calls, as W3C Baggage; none by default. They reach
         * whoever is called, so none of them should be a secret.
         */
        public Builder contextOut(String... fields) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(List.of(fields), e.in(), e.trustsCallers(), e.hosts()));
        }

        /**
         * The names of W3C Baggage that are taken from callers, as fields of the context, and passed on; by default those of
         * {@link #contextOut}. All others are dropped: a caller must not choose the fields of this service's events.
         */
        public Builder contextIn(String... names) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(e.out(), List.of(names), e.trustsCallers(), e.hosts()));
        }

        /**
         * Whether callers are trusted; true by default. Of a caller that is not, the trace id is continued, so that one id
         * finds everything, but neither its baggage nor its tracestate is taken, and its flag cannot make events vanish by
         * sampling.
         */
        public Builder trustCallers(boolean trusted) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(e.out(), e.in(), trusted, e.hosts()));
        }

        /**
         * The hosts to which trace and context are sent; all by default.
         *
         * @param hosts without ports: {@code deck.skerry.example}, {@code *.skerry.example} for all below a domain, or
         *     {@code *} for all
         * @throws IllegalArgumentException when one of them is not of that form
         */
        public Builder contextHosts(String... hosts) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(e.out(), e.in(), e.trustsCallers(), List.of(hosts)));
        }

        private Builder contextExchange(ContextExchange exchange) {
            contextExchange = exchange;
            return this;
        }

        /**
         * The ready detectors to redact by, in place of the default, which is all but telephone and ip.
         *
         * @throws IllegalArgumentException when there is no detector of such a name
         */
        public Builder detect(String... names) {
            RedactionSettings r = redaction;
            return redaction(new RedactionSettings(
                    List.of(names),
                    r.patterns(),
                    r.treatments(),
                    r.keys(),
                    r.sensitive(),
                    r.pseudonymKeyId(),
                    r.pseudonymKey()));
        }

        /** What is hidden, and how, as a whole. */
        public Builder redaction(RedactionSettings redaction) {
            this.redaction = Objects.requireNonNull(redaction, "redaction");
            return this;
        }

        public Builder sample(SamplingRule rule) {
            places.putIfAbsent("sampling." + sampling.size(), PROGRAM);
            sampling.add(Objects.requireNonNull(rule, "rule"));
            return this;
        }

        /** Holds detail back until it is known whether it is needed; nothing is held back by default. */
        public Builder holdBack(HoldBackRule rule) {
            places.putIfAbsent("hold-back", PROGRAM);
            holdBack = Objects.requireNonNull(rule, "rule");
            return this;
        }

        /** Adds a sink made by the program; it is closed with the runtime. */
        public Builder sink(String name, Sink sink) {
            return sink(name, SinkSettings.given(sink));
        }

        /** Adds standard output in columns. */
        public Builder console(String name) {
            return sink(name, SinkSettings.console());
        }

        /** Adds a file of JSON lines, bounded by default. */
        public Builder file(String name, Path path) {
            return sink(name, SinkSettings.file(path));
        }

        /**
         * Adds a sink of any kind.
         *
         * @throws IllegalArgumentException when there is one of that name already, or something is missing in it
         */
        public Builder sink(String name, SinkSettings sink) {
            try {
                sink.check();
            } catch (IllegalArgumentException e) {
                throw new IllegalArgumentException("the sink " + name + " has " + e.getMessage(), e);
            }
            places.putIfAbsent("sinks." + name, PROGRAM);
            if (sinks.putIfAbsent(name, Objects.requireNonNull(sink, "sink")) != null) {
                throw new IllegalArgumentException("two sinks are called \"" + name + "\"");
            }
            return this;
        }

        /** Sends the events for which the condition holds to the sinks of those names. */
        public Builder route(Condition when, String... to) {
            places.putIfAbsent("routes." + routes.size(), PROGRAM);
            routes.add(new Route(when, List.of(to)));
            return this;
        }

        /** Whether an event goes by the first route that takes it alone; false by default: by every one that takes it. */
        public Builder firstMatch(boolean firstMatch) {
            this.firstMatch = firstMatch;
            return this;
        }

        /** How often the settings file is looked at for changes: every two seconds by default; nothing for never. */
        public Builder watchEvery(Duration every) {
            if (every.isNegative()) {
                throw new IllegalArgumentException("watch: " + every + " (expected: nothing or more)");
            }
            watchEvery = every;
            return this;
        }

        /**
         * Whether callers may ask, by baggage, for more detail about their requests; false by default. Fit for services that
         * are called by one's own services alone: everybody else could make the logs grow.
         */
        public Builder detailFromCallers(boolean taken) {
            this.detailMarks = taken;
            return this;
        }

        /**
         * Whether each event is written at once, by the caller's thread, which waits for the sinks; false by default. For small
         * programs and tests.
         */
        public Builder synchronous(boolean synchronous) {
            this.synchronous = synchronous;
            return this;
        }

        /**
         * The folder for what cannot be written at once: what waits for a receiver that is away, and what durable sinks are
         * handed. {@code spool/{service}-{instance}} by default; made when it is first needed.
         */
        public Builder spoolPath(Path path) {
            spoolPath = Objects.requireNonNull(path, "path");
            return this;
        }

        /** How many bytes may wait for each sink whose receiver is away. 256 MiB by default; at least 1 MiB. */
        public Builder spoolTotal(long bytes) {
            if (bytes < 1024 * 1024) {
                throw new IllegalArgumentException("spool.total: " + bytes + " (expected: 1048576 or more)");
            }
            spoolTotal = bytes;
            return this;
        }

        /**
         * Gives a value that a format can ask for by name, with {@code value NAME} in a JSON shape. The function is called for
         * each event that is written, by sinks' threads, and must neither block nor write events; null leaves the value out.
         * What it returns is redacted.
         */
        public Builder value(String name, Function<? super Event, String> value) {
            values.put(Objects.requireNonNull(name, "name"), Objects.requireNonNull(value, "value"));
            return this;
        }

        /**
         * Makes the settings.
         *
         * @throws IllegalArgumentException when a route leads to a sink that is not there
         */
        public Settings build() {
            for (Route route : routes) {
                for (String sink : route.to()) {
                    if (!sinks.containsKey(sink)) {
                        throw new IllegalArgumentException(
                                "a route leads to the sink \"" + sink + "\": expected one of " + sinks.keySet());
                    }
                }
            }
            return new Settings(this);
        }
    }
}
