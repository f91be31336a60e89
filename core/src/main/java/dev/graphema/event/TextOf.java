package dev.graphema.event;

import java.util.concurrent.atomic.AtomicInteger;

/**
 * The text of an object of which nothing is known but its {@code toString}.
 *
 * <p>That method is the caller's code, and may never end. So the first time that a class is met, its method runs on a
 * thread of its own, for which the caller waits a bounded time; a class that has answered once is asked directly from then
 * on, which costs nothing extra. One that has not answered several times is not asked again. An object whose lock the
 * caller holds is asked directly, since another thread would wait for that lock in vain. Classes of the JDK are trusted.
 */
final class TextOf {
    static final long LONGEST_WAIT_MILLIS = 500;

    private static final int TRIES = 3;

    private static final ClassValue<Trust> TRUST = new ClassValue<>() {
        @Override
        protected Trust computeValue(Class<?> type) {
            return new Trust(type.getClassLoader() == null);
        }
    };

    private TextOf() {}

    /** The object's text, or a note in parentheses that it did not answer. What its method throws is thrown on. */
    static String of(Object value) {
        if (value == null) {
            return "null";
        }
        Trust trust = TRUST.get(value.getClass());
        if (trust.answered || Thread.holdsLock(value)) {
            return String.valueOf(value.toString());
        }
        return trust.failures.get() < TRIES ? firstText(value, trust) : unanswered();
    }

    private static String firstText(Object value, Trust trust) {
        Answer answer = new Answer(value);
        Thread thread = new Thread(answer, "graphema-first-text");
        thread.setDaemon(true);
        thread.start();
        try {
            thread.join(LONGEST_WAIT_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return unanswered();
        }
        if (thread.isAlive()) {
            trust.failures.incrementAndGet();
            return unanswered();
        }
        trust.answered = true;
        return answer.text();
    }

    private static String unanswered() {
        return "(failed: toString did not end within " + LONGEST_WAIT_MILLIS + " ms)";
    }

    private static final class Trust {
        private final AtomicInteger failures = new AtomicInteger();
        private volatile boolean answered;

        Trust(boolean answered) {
            this.answered = answered;
        }
    }

    private static final class Answer implements Runnable {
        private final Object value;
        private String text;
        private RuntimeException exception;
        private Error error;

        Answer(Object value) {
            this.value = value;
        }

        @Override
        public void run() {
            try {
                text = String.valueOf(value.toString());
            } catch (RuntimeException e) {
                exception = e;
            } catch (Error e) {
                error = e;
            }
        }

        /** To be asked once the thread has ended. */
        String text() {
            if (exception != null) {
                throw exception;
            }
            if (error != null) {
                throw error;
            }
            return text;
        }
    }
}
