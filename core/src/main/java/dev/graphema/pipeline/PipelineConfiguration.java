package dev.graphema.pipeline;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBack;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sink.Route;
import java.util.List;
import java.util.Map;
import java.util.function.BiPredicate;

/**
 * How events are processed under one version of the settings. Immutable: a change of settings creates another one, and
 * each event is processed by one of them.
 */
final class PipelineConfiguration {
    private final long generation;
    private final String service;
    private final String instance;
    private final BiPredicate<String, Level> admits;
    private final Sampler sampler;
    private final HoldBack holdBack;
    private final BiPredicate<String, Level> askedFor;
    private final Redactor redactor;
    private final boolean firstMatch;
    private final Outlet[] outlets;
    private final Condition[] conditions;
    private final Outlet[][] routes;
    private final Map<String, Outlet> byName;

    final ActiveCalls usage = new ActiveCalls();

    /**
     * A sink of this configuration.
     *
     * @param threshold its threshold
     * @param bit identifies it among the sinks of the configuration
     */
    record Outlet(Delivery delivery, Level threshold, long bit) {
        void offer(Draft event) {
            if (event.level().passes(threshold)) {
                delivery.handOver(event);
            }
        }
    }

    PipelineConfiguration(PipelineBuilder builder, long generation, Map<String, Outlet> byName, HoldBack holdBack) {
        this.generation = generation;
        this.service = builder.service();
        this.instance = builder.instance();
        this.admits = builder.admits();
        this.sampler = builder.sampler();
        this.holdBack = holdBack;
        this.askedFor = builder.askedFor();
        this.redactor = builder.redactor();
        this.firstMatch = builder.firstMatch();
        this.byName = byName;
        this.outlets = byName.values().toArray(new Outlet[0]);
        List<Route> given = builder.routes();
        this.conditions = given.stream().map(Route::when).toArray(Condition[]::new);
        this.routes = given.stream()
                .map(route -> route.to().stream().map(this::known).toArray(Outlet[]::new))
                .toArray(Outlet[][]::new);
    }

    /** Returns how many events each sampling rule has dropped, in the order of the rules. */
    List<Long> dropped() {
        return sampler.dropped();
    }

    long withheld() {
        return redactor.withheld();
    }

    long generation() {
        return generation;
    }

    /** Returns the sinks by name, in their order. */
    Map<String, Outlet> outlets() {
        return byName;
    }

    HoldBack holdBack() {
        return holdBack;
    }

    boolean keepsTrace(Draft draft) {
        return sampler.keepsTrace(draft.service(service).instance(instance));
    }

    /**
     * Returns whether the event is accepted.
     *
     * @param admittedBy the generation of the settings whose thresholds have accepted it; another generation is not
     *     trusted
     */
    boolean admits(Draft draft, long admittedBy) {
        return admittedBy == generation || admits.test(draft.logger(), draft.level());
    }

    /**
     * Samples, redacts, holds back or hands over an accepted event.
     *
     * @param numbers provides sequence numbers
     */
    void take(Draft draft, SequenceNumbers numbers) {
        draft.service(service).instance(instance); // conditions of rules may ask for them
        // An event that releases detail is never sampled, because detail would be written without its reason. Held
        // events are
        // not sampled either, so that a group is complete.
        boolean releases = holdBack.isReleasedBy(draft);
        boolean isDetail = !releases && holdBack.isAbout(draft) && !askedFor.test(draft.logger(), draft.level());
        long weight = releases || isDetail ? 1 : sampler.weight(draft);
        if (weight == 0) {
            return;
        }
        redactor.redact(draft);
        draft.weight(weight).run(numbers.run());
        if (isDetail && holdBack.hold(draft) == HoldBack.Fate.HELD) {
            return;
        }
        if (releases) {
            release(draft, numbers);
        }
        send(draft.held(isDetail).sequence(numbers.next()).complete());
    }

    private void release(Draft cause, SequenceNumbers numbers) {
        HoldBack.Released released = holdBack.release(cause);
        released.events().forEach(event -> send(event.held(true).sequence(numbers.next())));
        if (released.missing() > 0) {
            Draft first =
                    released.events().isEmpty() ? cause : released.events().get(0);
            Draft missing = new Draft()
                    .time(first.epochNanos())
                    .level(first.level())
                    .service(service)
                    .instance(instance)
                    .logger("dev.graphema")
                    .message("earlier detail is missing")
                    .trace(first.trace(), first.span(), first.parent())
                    .fields(
                            f -> f.put("count", released.missing())
                                    .put(
                                            "remedy",
                                            "set hold-back: {events} to more, or raise the thresholds of loggers that emit many events"))
                    .held(true)
                    .run(numbers.run());
            send(missing.sequence(numbers.next()).complete());
        }
    }

    void send(Draft event) {
        if (conditions.length == 0) {
            for (Outlet outlet : outlets) {
                outlet.offer(event);
            }
            return;
        }
        long sent = 0; // one bit for each sink that has the event already
        for (int i = 0; i < conditions.length; i++) {
            if (conditions[i].matches(event)) {
                for (Outlet outlet : routes[i]) {
                    if ((sent & outlet.bit) == 0) {
                        sent |= outlet.bit;
                        outlet.offer(event);
                    }
                }
                if (firstMatch) {
                    return;
                }
            }
        }
    }

    private Outlet known(String name) {
        Outlet outlet = byName.get(name);
        if (outlet == null) {
            throw new IllegalArgumentException(
                    "a route leads to the sink \"" + name + "\": expected one of " + byName.keySet());
        }
        return outlet;
    }
}
