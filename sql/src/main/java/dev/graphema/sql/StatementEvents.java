package dev.graphema.sql;

import dev.graphema.Logger;
import dev.graphema.event.Level;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.Statement;
import java.time.Duration;
import java.util.Objects;
import javax.sql.DataSource;

/**
 * A data source that emits an event for each statement of its connections:
 *
 * <pre>{@code
 * DataSource lanes = StatementEvents.of(pool, log, Duration.ofMillis(200));
 * }</pre>
 *
 * <p>The message is {@value #MESSAGE}. The fields are {@code statement} (the text with a question mark for each value), {@code
 * elapsed}, and {@code rows} (the number of changed rows; none for a query). A statement that fails is an error and contains the
 * exception; one that takes at least as long as a slow one is a warning with {@code slow = true}; all others are debug events, so
 * that the threshold of the logger decides whether they are written. Parameters are never recorded. Thread-safe as far as the
 * data source is.
 */
public final class StatementEvents {
    /** The message of the events. */
    public static final String MESSAGE = "statement";

    private final Logger log;
    private final long slowNanos;

    private StatementEvents(Logger log, Duration slow) {
        this.log = Objects.requireNonNull(log, "log");
        this.slowNanos = slow.toNanos();
    }

    /**
     * Returns a data source whose statements are logged.
     *
     * @param slow from which duration on a statement is slow; positive
     * @throws IllegalArgumentException if the duration is not positive
     */
    public static DataSource of(DataSource source, Logger log, Duration slow) {
        if (slow.isNegative() || slow.isZero()) {
            throw new IllegalArgumentException("slow: " + slow + " (expected: a positive duration)");
        }
        StatementEvents events = new StatementEvents(log, slow);
        return events.proxy(DataSource.class, events.new Passing(source));
    }

    private <T> T proxy(Class<T> type, InvocationHandler handler) {
        return type.cast(
                Proxy.newProxyInstance(StatementEvents.class.getClassLoader(), new Class<?>[] {type}, handler));
    }

    /** Passes calls on to a data source or connection, and replaces connections and statements in their results. */
    private final class Passing implements InvocationHandler {
        private final Object target;

        Passing(Object target) {
            this.target = target;
        }

        @Override
        public Object invoke(Object proxy, Method method, Object[] arguments) throws Throwable {
            Object result = call(target, method, arguments);
            boolean isUnwrapped = method.getName().equals("unwrap");
            if (result instanceof Connection connection && !isUnwrapped) {
                return proxy(Connection.class, new Passing(connection));
            }
            if (!(result instanceof Statement statement) || isUnwrapped) {
                return result;
            }
            String text = arguments != null && arguments[0] instanceof String prepared ? prepared : null;
            Timing timing = new Timing(statement, text, (Connection) proxy);
            if (result instanceof CallableStatement) {
                return proxy(CallableStatement.class, timing);
            }
            return result instanceof PreparedStatement
                    ? proxy(PreparedStatement.class, timing)
                    : proxy(Statement.class, timing);
        }
    }

    /** Passes calls on to a statement, and measures its executions. */
    private final class Timing implements InvocationHandler {
        private final Statement target;
        private final Connection connection;

        /** The text of a prepared statement, or the first one of a batch. */
        private String text;

        Timing(Statement target, String text, Connection connection) {
            this.target = target;
            this.text = text;
            this.connection = connection;
        }

        @Override
        public Object invoke(Object proxy, Method method, Object[] arguments) throws Throwable {
            String name = method.getName();
            if (name.equals("getConnection")) {
                return connection;
            }
            String given =
                    arguments != null && arguments.length > 0 && arguments[0] instanceof String first ? first : null;
            if (name.equals("addBatch") && text == null) {
                text = given;
            }
            return name.startsWith("execute")
                    ? executed(given == null ? text : given, method, arguments)
                    : call(target, method, arguments);
        }

        private Object executed(String statement, Method method, Object... arguments) throws Throwable {
            long start = System.nanoTime();
            Object result;
            try {
                result = call(target, method, arguments);
            } catch (Throwable e) {
                emit(statement, System.nanoTime() - start, -1, e);
                throw e;
            }
            emit(statement, System.nanoTime() - start, rows(result), null);
            return result;
        }
    }

    /** Returns the number of changed rows; negative if it is not known. */
    private static long rows(Object result) {
        long rows = 0;
        if (result instanceof Number number) {
            return number.longValue();
        }
        if (result instanceof int[] counts) {
            for (int count : counts) {
                rows += Math.max(0, count);
            }
            return rows;
        }
        if (result instanceof long[] counts) {
            for (long count : counts) {
                rows += Math.max(0, count);
            }
            return rows;
        }
        return -1;
    }

    private void emit(String statement, long nanos, long rows, Throwable failure) {
        boolean isSlow = nanos >= slowNanos;
        Level level = failure != null ? Level.ERROR : isSlow ? Level.WARN : Level.DEBUG;
        log.log(level, MESSAGE, failure, f -> {
            f.put("statement", statement == null ? null : SqlText.withoutValues(statement));
            f.put("elapsed", Duration.ofNanos(nanos));
            if (rows >= 0) {
                f.put("rows", rows);
            }
            if (isSlow) {
                f.put("slow", true);
            }
        });
    }

    private static Object call(Object target, Method method, Object... arguments) throws Throwable {
        try {
            return method.invoke(target, arguments);
        } catch (InvocationTargetException e) {
            throw e.getCause();
        }
    }
}
