package dev.graphema.settings;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.Formats;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.sampling.Keep;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.Route;
import dev.graphema.sink.Sink;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;

/**
 * All settings. Immutable; built by a {@link Builder} or read from a file by {@link SettingsFile}.
 *
 * <p>By default, events at level info and above are written to standard output, in columns on a terminal and as JSON
 * elsewhere, redacted by all built-in detectors, and not sampled.
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

    /** Returns the name of the service, or null. */
    public String service() {
        return service;
    }

    /** Returns the name of the instance, or null. */
    public String instance() {
        return instance;
    }

    public Thresholds thresholds() {
        return thresholds;
    }

    /** Returns whether events of the logger contain the calling class, method and line. */
    public boolean addsCaller(String logger) {
        return callers.stream()
                .anyMatch(branch ->
                        logger.equals(branch) || logger.startsWith(branch) && logger.charAt(branch.length()) == '.');
    }

    /** Returns the loggers, with all below them, whose events contain the calling class, method and line. */
    public List<String> callers() {
        return callers;
    }

    /** Returns the fields of the context that are sent with outgoing calls, as W3C Baggage. */
    public List<String> contextOut() {
        return contextExchange.out();
    }

    /** Returns what is sent to called services and accepted from callers. */
    public ContextExchange contextExchange() {
        return contextExchange;
    }

    /** Returns the redaction. */
    public RedactionSettings redaction() {
        return redaction;
    }

    public List<SamplingRule> sampling() {
        return sampling;
    }

    /** Returns the hold-back, if any. */
    public Optional<HoldBackRule> holdBack() {
        return Optional.ofNullable(holdBack);
    }

    /** Returns the sinks by name, in their order; one or more. */
    public Map<String, SinkSettings> sinks() {
        return java.util.Collections.unmodifiableMap(sinks);
    }

    /** Returns the routes; without routes, every event is written to every sink. */
    public List<Route> routes() {
        return routes;
    }

    /**
     * Returns where a setting is defined: {@code graphema.yaml:3:12}, or {@code the program}; empty for a default.
     *
     * @param what {@code levels.LOGGER}, {@code levels.default}, {@code sinks.NAME}, {@code hold-back}, {@code
     *     routes.INDEX} or {@code sampling.INDEX}, counted from 0
     */
    public String place(String what) {
        return places.getOrDefault(what, "");
    }

    /** Returns whether only the first matching route applies. */
    public boolean firstMatch() {
        return firstMatch;
    }

    /** Returns how often the settings file is checked for changes; zero for never. */
    public Duration watchEvery() {
        return watchEvery;
    }

    /** Returns whether callers can request, by baggage, more detail about their requests. */
    public boolean takesDetailMarks() {
        return detailMarks;
    }

    /** Returns whether the calling thread writes each event. */
    public boolean synchronous() {
        return synchronous;
    }

    /**
     * Returns the folder for events that cannot be written immediately; {@code {service}} and {@code {instance}} are
     * replaced.
     */
    public Path spoolPath() {
        return spoolPath;
    }

    /** Returns the most bytes in that folder for each sink. */
    public long spoolTotal() {
        return spoolTotal;
    }

    /** Returns the values of the program, which formats use by name. */
    public Map<String, Function<? super Event, String>> values() {
        return values;
    }

    /**
     * Builds settings. Each method rejects an invalid value immediately; {@link #build} checks rules across settings.
     */
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

        /** Records where a setting is defined; see {@link Settings#place}. */
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

        /** Sets the threshold of all loggers without another one. Default: info. */
        public Builder level(Level threshold) {
            standardLevel = Objects.requireNonNull(threshold, "threshold");
            places.putIfAbsent("levels.default", PROGRAM);
            return this;
        }

        /** Sets the threshold of a logger with this dotted name and of all below it. */
        public Builder level(String logger, Level threshold) {
            levels.put(Objects.requireNonNull(logger, "logger"), Objects.requireNonNull(threshold, "threshold"));
            places.putIfAbsent("levels." + logger, PROGRAM);
            return this;
        }

        /**
         * Sets the loggers, with all below them, whose events contain the calling class, method and line in the field
         * {@code caller}; none by default. This walks the stack for each event and takes about four microseconds,
         * several times the cost of the rest of the call.
         */
        public Builder caller(String... loggers) {
            callers = List.of(loggers);
            return this;
        }

        /**
         * Sets the fields of the context that are sent with outgoing calls, as W3C Baggage; none by default. All called
         * services receive them, so they must not be secret.
         */
        public Builder contextOut(String... fields) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(List.of(fields), e.in(), e.trustsCallers(), e.hosts()));
        }

        /**
         * Sets the names of W3C Baggage that are accepted from callers as fields of the context, and forwarded; by
         * default those of {@link #contextOut}. Others are dropped: a caller must not choose the fields of the events
         * of this service.
         */
        public Builder contextIn(String... names) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(e.out(), List.of(names), e.trustsCallers(), e.hosts()));
        }

        /**
         * Sets whether callers are trusted; true by default. The trace id of an untrusted caller is continued, so that
         * one id finds all events, but its baggage and tracestate are not accepted, and its sampled flag has no effect.
         */
        public Builder trustCallers(boolean trusted) {
            ContextExchange e = contextExchange;
            return contextExchange(new ContextExchange(e.out(), e.in(), trusted, e.hosts()));
        }

        /**
         * Sets the hosts to which trace and context are sent; all by default.
         *
         * @param hosts without ports: {@code deck.skerry.example}, {@code *.skerry.example} for all hosts of a domain,
         *     or {@code *} for all
         * @throws IllegalArgumentException if one of them is invalid
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
         * Sets the enabled built-in detectors; by default all except telephone and ip.
         *
         * @throws IllegalArgumentException if there is no detector with such a name
         */
        public Builder detect(String... names) {
            return redact(r -> r.detect(names));
        }

        /**
         * Changes the redaction, as in {@code s.redact(r -> r.key("pin", "remove").treat("mail", "pseudonym"))}.
         *
         * @throws IllegalArgumentException if a name, pattern, treatment or key is invalid
         */
        public Builder redact(Consumer<RedactionBuilder> change) {
            RedactionBuilder changed = new RedactionBuilder(redaction);
            change.accept(changed);
            return redaction(changed.build());
        }

        /** Sets the redaction. */
        public Builder redaction(RedactionSettings redaction) {
            this.redaction = Objects.requireNonNull(redaction, "redaction");
            return this;
        }

        public Builder sample(SamplingRule rule) {
            places.putIfAbsent("sampling." + sampling.size(), PROGRAM);
            sampling.add(Objects.requireNonNull(rule, "rule"));
            return this;
        }

        /**
         * Adds a sampling rule, as in {@code s.sample("message = heartbeat", "1 in 20")}.
         *
         * @param when the condition of the sampled events
         * @param keep how many are kept, as for {@link Keep#parse}
         * @throws dev.graphema.condition.ConditionException if the condition is invalid
         * @throws IllegalArgumentException if the share is invalid
         */
        public Builder sample(String when, String keep) {
            return sample(new SamplingRule(Condition.parse(when), Keep.parse(keep), false, false));
        }

        /**
         * Changes the last sampling rule: all events of a trace are kept or dropped together.
         *
         * @throws IllegalStateException if there is no sampling rule
         * @throws IllegalArgumentException if the rule keeps neither 1 in N nor a percentage
         */
        public Builder together() {
            if (sampling.isEmpty()) {
                throw new IllegalStateException("there is no sampling rule: call sample(...) before together()");
            }
            int last = sampling.size() - 1;
            SamplingRule rule = sampling.get(last);
            sampling.set(last, new SamplingRule(rule.when(), rule.keep(), true, rule.errors()));
            return this;
        }

        /** Sets the hold-back; none by default. */
        public Builder holdBack(HoldBackRule rule) {
            places.putIfAbsent("hold-back", PROGRAM);
            holdBack = Objects.requireNonNull(rule, "rule");
            return this;
        }

        /** Adds a custom sink, which is closed with the runtime. */
        public Builder sink(String name, Sink sink) {
            return sink(name, SinkSettings.given(sink));
        }

        /** Adds standard output in columns. */
        public Builder console(String name) {
            return sink(name, SinkSettings.console());
        }

        /** Adds a file of JSON lines, limited in size. */
        public Builder file(String name, Path path) {
            return sink(name, SinkSettings.file(path));
        }

        /**
         * Adds a sink.
         *
         * @throws IllegalArgumentException if there is already one with this name, or a required option is missing
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

        /** Adds a route: events that match the condition are written to the sinks with these names. */
        public Builder route(Condition when, String... to) {
            places.putIfAbsent("routes." + routes.size(), PROGRAM);
            routes.add(new Route(when, List.of(to)));
            return this;
        }

        /**
         * Adds a route, as in {@code s.route("level >= info", "screen")}.
         *
         * @throws dev.graphema.condition.ConditionException if the condition is invalid
         */
        public Builder route(String when, String... to) {
            return route(Condition.parse(when), to);
        }

        /** Sets whether only the first matching route applies; false by default. */
        public Builder firstMatch(boolean firstMatch) {
            this.firstMatch = firstMatch;
            return this;
        }

        /** Sets how often the settings file is checked for changes: every two seconds by default; zero for never. */
        public Builder watchEvery(Duration every) {
            if (every.isNegative()) {
                throw new IllegalArgumentException("watch: " + every + " (expected: nothing or more)");
            }
            watchEvery = every;
            return this;
        }

        /**
         * Sets whether callers can request, by baggage, more detail about their requests; false by default. Only for
         * internal services: others could make the logs grow.
         */
        public Builder detailFromCallers(boolean taken) {
            this.detailMarks = taken;
            return this;
        }

        /**
         * Sets whether the calling thread writes each event and waits for the sinks; false by default. For small
         * programs and tests.
         */
        public Builder synchronous(boolean synchronous) {
            this.synchronous = synchronous;
            return this;
        }

        /**
         * Sets the folder for events that cannot be written immediately: those that wait for an unavailable receiver,
         * and the hand-over files of durable sinks. {@code spool/{service}-{instance}} by default; created when needed.
         */
        public Builder spoolPath(Path path) {
            spoolPath = Objects.requireNonNull(path, "path");
            return this;
        }

        /** Sets the most bytes that wait for each sink. Default: 256 MiB; at least 1 MiB. */
        public Builder spoolTotal(long bytes) {
            if (bytes < 1024 * 1024) {
                throw new IllegalArgumentException("spool.total: " + bytes + " (expected: 1048576 or more)");
            }
            spoolTotal = bytes;
            return this;
        }

        /**
         * Adds a value that a format can use by name, with {@code value NAME} in a JSON shape. The function is called
         * for each written event, on the threads of sinks, and must neither block nor emit events; null omits the
         * value. Its result is redacted.
         */
        public Builder value(String name, Function<? super Event, String> value) {
            values.put(Objects.requireNonNull(name, "name"), Objects.requireNonNull(value, "value"));
            return this;
        }

        /**
         * Builds the settings.
         *
         * @throws IllegalArgumentException if a route refers to an unknown sink
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
