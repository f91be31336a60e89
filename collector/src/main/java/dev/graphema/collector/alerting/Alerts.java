package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertReceiver;
import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.text.FlatJson;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.source.EventSource;
import dev.graphema.text.Times;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * Evaluates alerts every {@value #EVERY_SECONDS} seconds. A change is an event, and a notice to the receivers. The state is in a file, so that
 * nothing fires again after a restart. Thread-safe.
 */
public final class Alerts implements Closeable {
    private static final int EVERY_SECONDS = 10;
    private static final String STATES = "alerts.jsonl";
    private static final String MUTES = "mutes.jsonl";

    private final Path store;
    private final List<AlertRule> rules;
    private final EventSource source;
    private final Evaluation evaluation;
    private final AlertStates states;
    private final Map<String, Instant> mutedUntil = new LinkedHashMap<>();
    private final Deliveries deliveries;
    private final Context context;
    private final ScheduledThreadPoolExecutor executor = new ScheduledThreadPoolExecutor(1, task -> {
        Thread thread = new Thread(task, "graphema-alerts");
        thread.setDaemon(true);
        return thread;
    });

    /**
     * What alerts need of the collector.
     *
     * @param store the folder of the store
     * @param source its events
     * @param events receives the changes as events
     * @param address of the collector, for the command in notices
     * @param problems receives what the operator should know
     */
    public record Context(
            Path store,
            EventSource source,
            Consumer<Event> events,
            Supplier<String> address,
            InstantSource clock,
            Consumer<String> problems) {}

    /** @throws IOException if the files with the state cannot be read */
    public Alerts(List<AlertRule> rules, List<AlertReceiver> receivers, Context context) throws IOException {
        this.store = context.store();
        this.rules = List.copyOf(rules);
        this.context = context;
        this.source = context.source();
        this.evaluation = new Evaluation(context.source());
        List<AlertState> before = new ArrayList<>();
        try {
            FlatJson.readLines(store.resolve(STATES)).forEach(each -> before.add(AlertState.of(each)));
            FlatJson.readLines(store.resolve(MUTES))
                    .forEach(each -> mutedUntil.put(each.get("rule"), Instant.parse(each.get("until"))));
        } catch (RuntimeException e) {
            throw new IOException(
                    "the state of the alerts in " + store + " is damaged: delete " + STATES + " and " + MUTES, e);
        }
        this.states = new AlertStates(before);
        states.keepOnly(this.rules);
        this.deliveries = new Deliveries(store, receivers, context.clock(), context.problems());
    }

    /** Begins to evaluate. */
    public void start() {
        deliveries.start();
        if (!rules.isEmpty()) {
            executor.scheduleWithFixedDelay(
                    () -> evaluate(context.clock().instant()), EVERY_SECONDS, EVERY_SECONDS, TimeUnit.SECONDS);
        }
    }

    /** Evaluates all alerts at a moment. */
    synchronized void evaluate(Instant now) {
        for (AlertRule rule : rules) {
            try {
                take(states.take(rule, evaluation.met(rule, now), now));
            } catch (IOException | RuntimeException | OutOfMemoryError e) {
                context.problems().accept("the alert \"" + rule.name() + "\" cannot be evaluated: " + e.getMessage());
            }
        }
    }

    private void take(List<AlertStates.Change> changes) throws IOException {
        List<Notice> notices = new ArrayList<>();
        for (AlertStates.Change each : changes) {
            boolean isMuted = isMuted(each.rule().name(), each.at());
            context.events().accept(event(each, isMuted));
            if (!isMuted) {
                notices.addAll(ChangeText.notices(each, context.address().get()));
            }
        }
        // Notices first: if the process ends between the two, a notice is repeated with the same id, and none is lost.
        if (!notices.isEmpty()) {
            deliveries.add(notices);
        }
        FlatJson.writeLines(
                store.resolve(STATES),
                states.all().stream().map(AlertState::toMap).toList());
    }

    private static Event event(AlertStates.Change change, boolean isMuted) {
        return new Draft()
                .time(Times.epochNanos(change.at()))
                .level(change.isFiring() ? Level.WARN : Level.INFO)
                .service("collector")
                .logger("collector.alerts")
                .message(change.isFiring() ? "alert fires" : "alert ended")
                .thread(Thread.currentThread().getName())
                .fields(to -> {
                    to.put("alert", change.rule().name());
                    if (!change.state().group().isEmpty()) {
                        to.put("group", change.state().group());
                    }
                    to.put("found", change.state().found());
                    to.put("condition", change.rule().when().toString());
                    to.put("test", change.rule().test().toString());
                    to.put("muted", isMuted);
                })
                .finish();
    }

    private boolean isMuted(String rule, Instant at) {
        Instant until = mutedUntil.get(rule);
        return until != null && at.isBefore(until);
    }

    /**
     * Delivers no notices of an alert for some time; its changes are events all the same.
     *
     * @return false if there is no such alert
     */
    public synchronized boolean mute(String rule, Instant until) throws IOException {
        if (rules.stream().noneMatch(each -> each.name().equals(rule))) {
            return false;
        }
        mutedUntil.put(rule, until);
        List<Map<String, String>> mutes = new ArrayList<>();
        mutedUntil.forEach((name, end) -> mutes.add(Map.of("rule", name, "until", end.toString())));
        FlatJson.writeLines(store.resolve(MUTES), mutes);
        return true;
    }

    /** Returns all alerts with their states, as JSON. */
    public synchronized String state() {
        List<Map<String, String>> all = new ArrayList<>();
        for (AlertRule rule : rules) {
            Map<String, String> members = new LinkedHashMap<>();
            members.put("alert", rule.name());
            members.put("when", rule.when().toString());
            members.put("test", rule.test().toString());
            Instant until = mutedUntil.get(rule.name());
            members.put("muted", until == null ? null : until.toString());
            List<AlertState> ofRule = states.all().stream()
                    .filter(state -> state.rule().equals(rule.name()))
                    .toList();
            if (ofRule.isEmpty()) {
                members.put("stage", "quiet");
                all.add(members);
            }
            for (AlertState each : ofRule) {
                Map<String, String> whole = new LinkedHashMap<>(members);
                whole.put("stage", each.stage().name().toLowerCase(Locale.ROOT));
                whole.put("group", each.group().isEmpty() ? null : each.group());
                whole.put("since", each.since().toString());
                whole.put("found", each.found());
                all.add(whole);
            }
        }
        return FlatJson.of(all);
    }

    /**
     * Evaluates an alert over past events.
     *
     * @return its firings, as a JSON list; null if there is no such alert
     */
    public String tried(String name, Instant from, Instant to) throws IOException {
        for (AlertRule rule : rules) {
            if (rule.name().equals(name)) {
                List<Map<String, String>> firings = new ArrayList<>();
                for (Trial.Firing each : Trial.of(rule, source, from, to)) {
                    Map<String, String> members = new LinkedHashMap<>();
                    members.put("group", each.group().isEmpty() ? null : each.group());
                    members.put("fired", each.fired().toString());
                    members.put(
                            "ended", each.ended() == null ? null : each.ended().toString());
                    members.put("found", each.found());
                    firings.add(members);
                }
                return FlatJson.of(firings);
            }
        }
        return null;
    }

    @Override
    public void close() {
        Deliveries.ended(executor);
        deliveries.close();
    }
}
