package dev.graphema.lines.shape;

import static dev.graphema.lines.shape.LineAttribute.FAILURE_MESSAGE;
import static dev.graphema.lines.shape.LineAttribute.FAILURE_TEXT;
import static dev.graphema.lines.shape.LineAttribute.FAILURE_TYPE;
import static dev.graphema.lines.shape.LineAttribute.INSTANCE;
import static dev.graphema.lines.shape.LineAttribute.LEVEL;
import static dev.graphema.lines.shape.LineAttribute.LOGGER;
import static dev.graphema.lines.shape.LineAttribute.MESSAGE;
import static dev.graphema.lines.shape.LineAttribute.PARENT;
import static dev.graphema.lines.shape.LineAttribute.SERVICE;
import static dev.graphema.lines.shape.LineAttribute.SPAN;
import static dev.graphema.lines.shape.LineAttribute.THREAD;
import static dev.graphema.lines.shape.LineAttribute.TIME;
import static dev.graphema.lines.shape.LineAttribute.TRACE;

import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * What names mean in general, by the words in them: a name with {@code time}, {@code ts} or {@code date} is that of the
 * time, one with {@code level} or {@code severity} that of the level, and so on, unless other words exclude it. The
 * standards' names (OpenTelemetry, RFC 5424) are among them. A name alone does not decide: the value must fit.
 */
public final class CommonNames {
    private static final Set<String> TIME_WORDS = Set.of("time", "timestamp", "ts", "datetime", "date", "instant");
    private static final Set<String> BESIDE_TIME = Set.of(
            "event",
            "log",
            "logged",
            "record",
            "entry",
            "created",
            "at",
            "utc",
            "gmt",
            "local",
            "iso",
            "iso8601",
            "rfc3339",
            "epoch",
            "unix",
            "ms",
            "msec",
            "millis",
            "milliseconds",
            "us",
            "usec",
            "micros",
            "microseconds",
            "ns",
            "nano",
            "nanos",
            "nanoseconds",
            "sec",
            "secs",
            "seconds",
            "s",
            "string",
            "written",
            "emitted",
            "source",
            "observed",
            "received");
    private static final Set<String> OTHER_TIMES = Set.of(
            "start",
            "started",
            "begin",
            "end",
            "ended",
            "finish",
            "finished",
            "expires",
            "expiry",
            "expiration",
            "until",
            "valid",
            "modified",
            "updated",
            "changed",
            "due",
            "birth",
            "build",
            "boot",
            "session",
            "first",
            "last",
            "next",
            "previous",
            "deadline",
            "scheduled",
            "after",
            "before",
            "backend");
    private static final Set<String> NO_TIME = Set.of(
            "timeout",
            "timeouts",
            "uptime",
            "runtime",
            "timezone",
            "zone",
            "elapsed",
            "duration",
            "response",
            "request",
            "took",
            "taken",
            "cpu",
            "wait",
            "lifetime",
            "times",
            "idle",
            "update",
            "updates",
            "validated",
            "candidate");

    private static final Set<String> LEVEL_WORDS = Set.of("level", "severity", "lvl", "loglevel", "sev");
    private static final Set<String> BESIDE_LEVEL =
            Set.of("log", "name", "text", "label", "string", "event", "number", "num", "no", "code", "error", "value");

    private static final Set<String> MESSAGE_WORDS = Set.of("message", "msg", "body", "text");
    private static final Set<String> BESIDE_MESSAGE = Set.of(
            "log",
            "short",
            "full",
            "long",
            "event",
            "raw",
            "formatted",
            "record",
            "display",
            "entry",
            "string",
            "value");
    private static final Set<String> NO_MESSAGE = Set.of(
            "id",
            "type",
            "code",
            "count",
            "size",
            "length",
            "key",
            "queue",
            "topic",
            "error",
            "exception",
            "number",
            "name",
            "hash",
            "bytes",
            "http",
            "request",
            "response",
            "alt");
    private static final List<String> WEAK_MESSAGES = List.of("event", "log", "description", "summary", "title");

    private static final Set<String> FAILURE_WORDS = Set.of("exception", "error", "err", "throwable", "failure", "exc");
    private static final Set<String> STACK_WORDS =
            Set.of("stack", "trace", "stacktrace", "text", "info", "traceback", "backtrace", "string");
    private static final Set<String> TYPE_WORDS = Set.of("type", "class", "name", "kind");

    private static final List<List<String>> LOGGERS = List.of(
            List.of("logger"),
            List.of("logger", "name"),
            List.of("log", "logger"),
            List.of("loggername"),
            List.of("scope", "name"),
            List.of("instrumentation", "scope", "name"),
            List.of("category"),
            List.of("component"),
            List.of("module"),
            List.of("subsystem"));
    private static final List<List<String>> SERVICES = List.of(
            List.of("service"),
            List.of("service", "name"),
            List.of("servicename"),
            List.of("app"),
            List.of("application"),
            List.of("app", "name"),
            List.of("appname"),
            List.of("application", "name"),
            List.of("program"));
    private static final List<List<String>> INSTANCES = List.of(
            List.of("instance"),
            List.of("service", "instance", "id"),
            List.of("instance", "id"),
            List.of("host"),
            List.of("host", "name"),
            List.of("hostname"),
            List.of("pod"),
            List.of("pod", "name"));
    private static final List<List<String>> THREADS = List.of(
            List.of("thread"),
            List.of("thread", "name"),
            List.of("threadname"),
            List.of("process", "thread", "name"),
            List.of("thread", "id"));
    private static final List<List<String>> TRACES =
            List.of(List.of("trace"), List.of("trace", "id"), List.of("traceid"), List.of("traceparent"));
    private static final List<List<String>> SPANS = List.of(List.of("span"), List.of("span", "id"), List.of("spanid"));
    private static final List<List<String>> PARENTS = List.of(
            List.of("parent"),
            List.of("parent", "id"),
            List.of("parentid"),
            List.of("parent", "span", "id"),
            List.of("parentspanid"));

    private CommonNames() {}

    /** Returns the meaning of a name; that of a field if it has none. */
    public static Meaning meaning(String name) {
        List<String> words = NameWords.of(name);
        if (words.isEmpty() || words.size() > 6) {
            return Meaning.FIELD;
        }
        Meaning listed = listed(words);
        if (listed != null) {
            return listed;
        }
        Meaning failure = failure(words);
        if (failure != null) {
            return failure;
        }
        int rank = time(words);
        if (rank >= 0) {
            return new Meaning(TIME, rank);
        }
        rank = level(words);
        if (rank >= 0) {
            return new Meaning(LEVEL, rank);
        }
        rank = message(words);
        return rank >= 0 ? new Meaning(MESSAGE, rank) : Meaning.FIELD;
    }

    /** Returns the attribute as which a name is read if it is different from the name; null for any other name. */
    public static String readAs(String name) {
        Meaning meaning = meaning(name);
        boolean isRead = !meaning.isField()
                && !meaning.isLoose()
                && !meaning.attribute().text().equals(name);
        return isRead ? meaning.attribute().text() : null;
    }

    private static Meaning listed(List<String> words) {
        Meaning meaning = in(LOGGERS, LOGGER, words);
        meaning = meaning == null ? in(SERVICES, SERVICE, words) : meaning;
        meaning = meaning == null ? in(INSTANCES, INSTANCE, words) : meaning;
        meaning = meaning == null ? in(THREADS, THREAD, words) : meaning;
        meaning = meaning == null ? in(TRACES, TRACE, words) : meaning;
        meaning = meaning == null ? in(SPANS, SPAN, words) : meaning;
        return meaning == null ? in(PARENTS, PARENT, words) : meaning;
    }

    private static Meaning in(List<List<String>> names, LineAttribute attribute, List<String> words) {
        int index = names.indexOf(words);
        return index < 0 ? null : new Meaning(attribute, index);
    }

    private static int time(List<String> words) {
        if (words.stream().anyMatch(NO_TIME::contains)) {
            return -1;
        }
        if (words.size() == 1 && TIME_WORDS.contains(words.get(0))) {
            return List.of("time", "timestamp", "ts", "datetime", "instant", "date")
                    .indexOf(words.get(0));
        }
        if (words.equals(List.of("created")) || words.equals(List.of("created", "at"))) {
            return Meaning.LOOSE + 5;
        }
        int others = rest(words, TIME_WORDS, BESIDE_TIME);
        if (others == 0) {
            return Meaning.CERTAIN + words.size() + (words.contains("observed") || words.contains("received") ? 5 : 0);
        }
        boolean isTime =
                words.stream().anyMatch(word -> word.contains("time") || word.contains("date")) || words.contains("ts");
        boolean isOther = words.stream().anyMatch(OTHER_TIMES::contains);
        return isTime ? Meaning.LOOSE + (isOther ? 30 : 0) + words.size() : -1;
    }

    private static int level(List<String> words) {
        if (words.size() == 1 && LEVEL_WORDS.contains(words.get(0))) {
            return List.of("level", "severity", "lvl", "loglevel", "sev").indexOf(words.get(0));
        }
        boolean isNumber = words.contains("number") || words.contains("num") || words.contains("no");
        if (rest(words, LEVEL_WORDS, BESIDE_LEVEL) == 0) {
            return Meaning.CERTAIN + words.size() + (isNumber ? 5 : 0);
        }
        if (words.size() == 1
                && (words.get(0).startsWith("level") || words.get(0).startsWith("severity"))) {
            return Meaning.CERTAIN + (words.get(0).equals("levelno") ? 12 : 10);
        }
        if (words.equals(List.of("priority"))) {
            return Meaning.CERTAIN + 15;
        }
        return words.stream().anyMatch(word -> word.contains("level") || word.contains("severity"))
                ? Meaning.LOOSE + words.size()
                : -1;
    }

    private static int message(List<String> words) {
        if (words.size() == 1 && MESSAGE_WORDS.contains(words.get(0))) {
            return List.of("message", "msg", "body", "text").indexOf(words.get(0));
        }
        if (rest(words, MESSAGE_WORDS, BESIDE_MESSAGE) == 0) {
            return Meaning.CERTAIN + words.size() + (words.contains("full") || words.contains("long") ? 3 : 0);
        }
        if (words.size() == 1 && WEAK_MESSAGES.contains(words.get(0))) {
            return Meaning.LOOSE + WEAK_MESSAGES.indexOf(words.get(0));
        }
        boolean isMessage = words.stream().anyMatch(word -> word.contains("message") || word.equals("msg"));
        return isMessage && words.stream().noneMatch(NO_MESSAGE::contains) ? Meaning.LOOSE + 10 + words.size() : -1;
    }

    /** Returns the number of words beside the essential ones, or -1 if there is no essential word. */
    private static int rest(List<String> words, Set<String> essential, Set<String> beside) {
        if (words.stream().noneMatch(essential::contains)) {
            return -1;
        }
        return (int) words.stream()
                .filter(word -> !essential.contains(word) && !beside.contains(word))
                .count();
    }

    private static Meaning failure(List<String> words) {
        Set<String> others = new HashSet<>(words);
        boolean isFailure = others.removeAll(FAILURE_WORDS);
        if (!isFailure) {
            boolean isStack =
                    Set.of("stack", "stacktrace", "traceback", "backtrace").contains(words.get(0))
                            && STACK_WORDS.containsAll(words);
            return isStack ? new Meaning(FAILURE_TEXT, words.size()) : null;
        }
        if (others.isEmpty()) {
            return new Meaning(FAILURE_TEXT, words.get(0).startsWith("err") ? 9 : 8);
        }
        if (TYPE_WORDS.containsAll(others)) {
            return new Meaning(FAILURE_TYPE, words.size());
        }
        if (Set.of("message", "msg", "description").containsAll(others)) {
            return new Meaning(FAILURE_MESSAGE, words.size());
        }
        return STACK_WORDS.containsAll(others) ? new Meaning(FAILURE_TEXT, 4) : null;
    }
}
