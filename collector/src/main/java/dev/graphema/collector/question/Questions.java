package dev.graphema.collector.question;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.audit.Recorder;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.permission.Shares;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.json.QuestionException;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.partial.FirstEvents;
import dev.graphema.query.partial.PartialTransfer;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.text.Durations;
import java.io.Closeable;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;

/** Answers questions over the store. Thread-safe. */
public final class Questions {
    private static final int MOST_AT_ONCE = 8;
    private static final int MOST_STREAMS = 16;

    /** Memory for the answer to one question, and for one stream of events; fewer are read at once if there is less. */
    private static final long MEMORY_OF_QUESTION = 96 << 20;

    private static final long MEMORY_OF_STREAM = 48 << 20;
    private static final int SOON_SECONDS = 1;
    private static final int SHOWN = 50;
    private static final Duration LONGEST = Duration.ofMinutes(1);
    private static final String JSON = "application/json";
    private static final String EVENT_STREAM = "text/event-stream";
    private static final String TEXT = "text/plain";
    private static final byte[] ANSWER = "event: answer\ndata: ".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] END = "\n\n".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] NOTHING = {};

    private final EventSource own;
    private final EventSource events;
    private final Access access;
    private final Role role;
    private final Recorder audit;
    private final Shares questions = new Shares("questions", MOST_AT_ONCE, MOST_AT_ONCE / 2);

    /** The questions for which the store is read; the others wait for their turn. */
    private final Semaphore reading = new Semaphore(fitting(MEMORY_OF_QUESTION, MOST_AT_ONCE), true);

    /** As above, for questions that others ask on behalf of their callers: two that wait for each other must not take all turns. */
    private final Semaphore readingForOthers =
            new Semaphore(Math.max(1, fitting(MEMORY_OF_QUESTION, MOST_AT_ONCE) / 2), true);

    /** Those of readers of all events, which may be slow, so that they do not delay questions. */
    private final Shares streams;

    /**
     * @param own the events of the store
     * @param source those and the events of other collectors
     * @param access decides who may ask, and about which events
     * @param role what a caller needs to be allowed
     * @param audit records the questions
     */
    public Questions(EventSource own, EventSource source, Access access, Role role, Recorder audit) {
        this.own = own;
        this.events = source;
        this.access = access;
        this.role = role;
        this.audit = audit;
        int mostStreams = fitting(MEMORY_OF_STREAM, MOST_STREAMS);
        this.streams = new Shares("streams of events", mostStreams, Math.max(1, mostStreams / 4));
    }

    private static int fitting(long memory, int most) {
        return (int) Math.max(1, Math.min(most, Runtime.getRuntime().maxMemory() / memory));
    }

    /** Returns how many questions are being answered. */
    public int inProgress() {
        return questions.inProgress() + streams.inProgress();
    }

    /** What is done with a question. */
    private interface Answering {
        void answer(Question<?> question, EventSource source) throws Problem, IOException;
    }

    /** Answers as JSON, or as server-sent events: the progress, and at the end the answer. */
    public void answer(Call call) throws Problem, IOException {
        boolean isStream = EVENT_STREAM.equals(call.header("Accept"));
        Duration longest = longest(call);
        asked(call, questions, (question, source) -> {
            requireFew(question);
            try (Turn turn = turn(call)) {
                call.stream(isStream ? EVENT_STREAM : JSON, to -> answer(question, source, isStream, longest, to));
            }
        });
    }

    private static void answer(
            Question<?> question, EventSource source, boolean isStream, Duration longest, OutputStream to)
            throws IOException {
        Patience patience = new Patience(to, isStream, longest);
        if (question.ask() instanceof Ask.Events) {
            CoverageBuilder coverage = new CoverageBuilder(patience);
            PartialTransfer.Request events = new PartialTransfer.Request(question, null);
            FirstEvents found = (FirstEvents) QueryExecutor.part(events, source, coverage);
            to.write(isStream ? ANSWER : NOTHING);
            AnswerJson.write(found, coverage::coverage, to);
        } else {
            Answer answer = QueryExecutor.answer(question, source, patience);
            to.write(isStream ? ANSWER : NOTHING);
            to.write(AnswerJson.of(answer).getBytes(StandardCharsets.UTF_8));
        }
        to.write(isStream ? END : NOTHING);
    }

    /** Events are kept until all were read, so that there must not be too many. */
    private static void requireFew(Question<?> question) throws Problem {
        if (question.ask() instanceof Ask.Events events && events.limit() > PartialTransfer.MOST_EVENTS) {
            throw new Problem(
                    400,
                    "Too many events",
                    "ask.limit is " + events.limit() + ": expected at most " + PartialTransfer.MOST_EVENTS
                            + "; POST /questions/events returns all events, one after the other");
        }
    }

    /** Answers with the state of a partial answer, which another process merges. */
    public void part(Call call) throws Problem, IOException {
        asked(call, questions, (question, source) -> {
            requireFew(question);
            PartialTransfer.Request request = request(question, call.parameter("role"));
            try (Turn turn = turn(call)) {
                call.stream(JSON, to -> {
                    CoverageBuilder coverage = new CoverageBuilder(new Patience(to, false, LONGEST));
                    PartialTransfer.write(QueryExecutor.part(request, source, coverage), coverage::coverage, to);
                });
            }
        });
    }

    /** The right to read the store for a question, which ends when it is closed. */
    private interface Turn extends Closeable {}

    private Turn turn(Call call) throws Problem, IOException {
        Semaphore turns = isOfAnother(call) ? readingForOthers : reading;
        try {
            if (!turns.tryAcquire(LONGEST.toMillis(), TimeUnit.MILLISECONDS)) {
                throw new Problem(
                        429,
                        "Too many questions at once",
                        "others take more than " + LONGEST.toSeconds() + " s: try again later",
                        SOON_SECONDS);
            }
            return reading::release;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("interrupted while other questions were answered");
        }
    }

    /** Returns how long may be read for an answer, which then states that it was stopped. */
    private static Duration longest(Call call) throws Problem {
        String text = call.parameter("within");
        Duration within = text == null ? LONGEST : Durations.parse(text);
        if (within == null || within.isNegative() || within.isZero()) {
            throw new Problem(400, "The time cannot be read", "within is \"" + text + "\": expected such as 500ms");
        }
        return within.compareTo(LONGEST) < 0 ? within : LONGEST;
    }

    private static PartialTransfer.Request request(Question<?> question, String role) throws Problem {
        PartialTransfer.Request request = new PartialTransfer.Request(question, role);
        try {
            request.aggregation();
            return request;
        } catch (IllegalArgumentException e) {
            throw new Problem(400, "The question cannot be answered so", e.getMessage());
        }
    }

    /** Answers with all matching events, oldest first. */
    public void events(Call call) throws Problem, IOException {
        asked(call, streams, (question, source) -> {
            call.stream(
                    JSON,
                    to -> PartialTransfer.writeEvents(
                            receiver -> QueryExecutor.read(question.selection(), source, Control.NONE, receiver), to));
        });
    }

    /** Returns whether another collector asks, which asks all others itself: otherwise, two that ask each other would never answer. */
    private static boolean isOfAnother(Call call) throws Problem {
        return "true".equals(call.parameter("own"));
    }

    private void asked(Call call, Shares shares, Answering answering) throws Problem, IOException {
        Caller caller = access.require(role, call);
        String text = new String(call.body(), StandardCharsets.UTF_8);
        Question<?> question = call.mediaType().equals(TEXT) ? newest(text) : question(text);
        try (Shares.Share share = shares.take(caller)) {
            EventSource asked = isOfAnother(call) ? own : events;
            audit.record("question", caller, call, to -> to.put("question", QuestionJson.of(question)));
            if (caller.mask() == null) {
                answering.answer(restricted(question, caller.visible()), asked);
            } else {
                answering.answer(question, caller.seen(asked));
            }
        } catch (OutOfMemoryError e) {
            throw new Problem(
                    503,
                    "Too much memory",
                    "the answer needs more memory than there is: ask for fewer events or values");
        }
    }

    /** Returns the question about those events only that are visible. */
    private static <A extends Answer> Question<?> restricted(Question<A> question, Condition visible) {
        Object ask = question.ask();
        Condition where = question.where().and(visible);
        return ask instanceof Ask.Contrast contrast
                ? new Question<>(
                        where,
                        question.during(),
                        question.fields(),
                        new Ask.Contrast(contrast.with().and(visible), contrast.during()))
                : new Question<>(where, question.during(), question.fields(), question.ask());
    }

    /** Returns the question for the newest events that match a condition, as people type it. */
    private static Question<?> newest(String condition) throws Problem {
        try {
            return Question.where(condition.strip()).newest(SHOWN);
        } catch (ConditionException e) {
            throw new Problem(400, "The condition cannot be read", e.getMessage());
        }
    }

    private static Question<?> question(String text) throws Problem {
        try {
            return QuestionJson.read(text);
        } catch (QuestionException e) {
            throw new Problem(400, "The question cannot be read", e.getMessage());
        }
    }
}
