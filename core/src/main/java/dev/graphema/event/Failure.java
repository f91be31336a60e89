package dev.graphema.event;

import dev.graphema.failure.FailurePolicy;
import dev.graphema.text.Hex;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * A throwable as structure, with limited numbers of frames, causes and suppressed exceptions; cycles are cut.
 *
 * @param type the class name of the throwable
 * @param message the message, or null
 * @param frames the frames, innermost first, without those in common with the enclosing failure
 * @param sharedFrames the number of frames at the end in common with the enclosing failure
 * @param omittedFrames the number of frames that were omitted because there were too many
 * @param cause the cause, or null
 * @param suppressed the suppressed exceptions; empty if there are none
 */
public record Failure(
        String type,
        String message,
        List<Frame> frames,
        int sharedFrames,
        int omittedFrames,
        Failure cause,
        List<Failure> suppressed) {

    /** The field of an event that reports a failure again; it contains the fingerprint of the failure. */
    public static final String RECORDED = "failure_recorded";

    /** The field of such an event for the type and message of a throwable that wraps the failure. */
    public static final String WRAPPER = "failure_wrapper";

    static final int MAX_FRAMES = 128;
    static final int MAX_CAUSES = 16;
    static final int MAX_SUPPRESSED = 8;

    public Failure {
        frames = List.copyOf(frames);
        suppressed = List.copyOf(suppressed);
    }

    /** Captures a throwable. If one of its methods throws an exception, the message describes it. */
    public static Failure of(Throwable throwable) {
        return of(throwable, List.of(), Collections.newSetFromMap(new IdentityHashMap<>()), 0);
    }

    /** Returns the innermost cause. */
    public Failure root() {
        Failure failure = this;
        while (failure.cause != null) {
            failure = failure.cause;
        }
        return failure;
    }

    /**
     * Returns an id of the kind and place of the failure, independent of messages and line numbers: 16 hexadecimal
     * digits.
     */
    public String fingerprint() {
        return Fingerprint.of(this);
    }

    /** Returns whether the type or message of this failure, of a cause or of a suppressed exception passes the test. */
    public boolean anyText(Predicate<String> test) {
        if (test.test(type) || message != null && test.test(message) || cause != null && cause.anyText(test)) {
            return true;
        }
        for (Failure each : suppressed) {
            if (each.anyText(test)) {
                return true;
            }
        }
        return false;
    }

    /**
     * Returns the failure with all texts changed by an operator.
     *
     * @param names the operator for names of types, methods and files
     */
    Failure rewritten(UnaryOperator<String> operator, UnaryOperator<String> names) {
        return new Failure(
                names.apply(type),
                message == null ? null : operator.apply(message),
                rewritten(frames, names),
                sharedFrames,
                omittedFrames,
                cause == null ? null : cause.rewritten(operator, names),
                suppressed.stream().map(each -> each.rewritten(operator, names)).toList());
    }

    /** Returns the same list if nothing changes, which is usual. */
    private static List<Frame> rewritten(List<Frame> frames, UnaryOperator<String> names) {
        List<Frame> changed = null;
        for (int i = 0; i < frames.size(); i++) {
            Frame before = frames.get(i);
            Frame after = before.rewritten(names);
            if (after != before) {
                changed = changed == null ? new ArrayList<>(frames) : changed;
                changed.set(i, after);
            }
        }
        return changed == null ? frames : changed;
    }

    /** Returns the failure with cut messages; this one if no message was recorded in part. */
    Failure cut(Bounds bounds) {
        boolean isShort = (message == null || !bounds.isTooLong(message));
        Failure shortCause = cause == null ? null : cause.cut(bounds);
        List<Failure> shortSuppressed = suppressed.isEmpty()
                ? suppressed
                : suppressed.stream().map(each -> each.cut(bounds)).toList();
        if (isShort && shortCause == cause && shortSuppressed.equals(suppressed)) {
            return this;
        }
        return new Failure(
                type,
                isShort ? message : bounds.cut(message, message.length()),
                frames,
                sharedFrames,
                omittedFrames,
                shortCause,
                shortSuppressed);
    }

    private static Failure of(Throwable throwable, List<StackTraceElement> around, Set<Throwable> seen, int depth) {
        seen.add(throwable);
        List<StackTraceElement> stack = stack(throwable);
        int shared = shared(stack, around);
        int own = stack.size() - shared;
        int kept = Math.min(own, MAX_FRAMES);
        List<Frame> frames = stack.subList(0, kept).stream().map(Frame::of).toList();

        Throwable causedBy = cause(throwable);
        Failure cause = causedBy == null || seen.contains(causedBy) || depth >= MAX_CAUSES
                ? null
                : of(causedBy, stack, seen, depth + 1);
        List<Failure> suppressed = new ArrayList<>();
        for (Throwable each : suppressed(throwable)) {
            if (suppressed.size() < MAX_SUPPRESSED && !seen.contains(each) && depth < MAX_CAUSES) {
                suppressed.add(of(each, stack, seen, depth + 1));
            }
        }
        return new Failure(
                throwable.getClass().getName(), message(throwable), frames, shared, own - kept, cause, suppressed);
    }

    private static int shared(List<StackTraceElement> stack, List<StackTraceElement> around) {
        int shared = 0;
        while (shared < stack.size()
                && shared < around.size()
                && stack.get(stack.size() - 1 - shared).equals(around.get(around.size() - 1 - shared))) {
            shared++;
        }
        return shared;
    }

    private static List<StackTraceElement> stack(Throwable throwable) {
        try {
            return List.of(throwable.getStackTrace());
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return List.of();
        }
    }

    private static String message(Throwable throwable) {
        try {
            String message = throwable.getMessage();
            return message == null || !Bounds.EMITTING.isTooLong(message) ? message : Bounds.EMITTING.head(message);
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return "(failed: " + e.getClass().getName() + ")";
        }
    }

    private static Throwable cause(Throwable throwable) {
        try {
            return throwable.getCause();
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return null;
        }
    }

    private static Throwable[] suppressed(Throwable throwable) {
        // Final in Throwable, so not the caller's code.
        return throwable.getSuppressed();
    }

    /**
     * A number for all failures of the same kind at the same place in the code, computed from the types of a failure and
     * its causes, and from the classes and methods of their innermost frames. It is independent of messages, line numbers,
     * and the numbers in generated names of lambdas, proxies and hidden classes. FNV-1a with 64 bits.
     *
     * <p>Wrappers that the JDK adds to exceptions of tasks, reflective calls and proxies are ignored.
     */
    private static final class Fingerprint {
        private static final int FRAMES = 5;

        private static final Set<String> WRAPPERS = Set.of(
                "java.util.concurrent.ExecutionException",
                "java.util.concurrent.CompletionException",
                "java.lang.reflect.InvocationTargetException",
                "java.lang.reflect.UndeclaredThrowableException");
        private static final long BASIS = 0xcbf29ce484222325L;
        private static final long PRIME = 0x100000001b3L;

        private long hash = BASIS;

        private Fingerprint() {}

        /** Returns 16 hexadecimal digits. */
        static String of(Failure failure) {
            Fingerprint fingerprint = new Fingerprint();
            List<Frame> around = List.of();
            Failure first = failure;
            while (isWrapper(first)) {
                around = allFrames(first, around);
                first = first.cause();
            }
            // Without its wrapper, the failure would have the frames that it shares with that.
            fingerprint.add(first.type(), allFrames(first, around));
            for (Failure each = first.cause(); each != null; each = each.cause()) {
                fingerprint.add(each.type(), each.frames());
            }
            return Hex.digits(fingerprint.hash);
        }

        private static boolean isWrapper(Failure failure) {
            return failure.cause() != null && WRAPPERS.contains(failure.type());
        }

        /** @param around all frames of the enclosing failure */
        private static List<Frame> allFrames(Failure failure, List<Frame> around) {
            int shared = Math.min(failure.sharedFrames(), around.size());
            if (shared == 0 || failure.omittedFrames() > 0) {
                return failure.frames();
            }
            List<Frame> all = new ArrayList<>(failure.frames());
            all.addAll(around.subList(around.size() - shared, around.size()));
            return all;
        }

        private void add(String type, List<Frame> frames) {
            add(type);
            frames.stream().limit(FRAMES).forEach(frame -> {
                add(frame.type());
                add(frame.method());
            });
        }

        private void add(String name) {
            int end = withoutHiddenClass(name);
            for (int i = 0; i < end; i++) {
                char c = name.charAt(i);
                boolean generated = c >= '0' && c <= '9' && name.indexOf('$') >= 0;
                if (!generated) {
                    mix(c & 0xFF);
                    mix(c >>> 8);
                }
            }
            mix('\n');
        }

        private static int withoutHiddenClass(String name) {
            int slash = name.indexOf('/');
            return slash < 0 ? name.length() : slash;
        }

        private void mix(int octet) {
            hash = (hash ^ octet) * PRIME;
        }
    }

    /**
     * A frame of a stack trace.
     *
     * @param type the full name of the class
     * @param method the name of the method
     * @param file the name of the source file, or null
     * @param line the line number; negative if unknown, -2 for native code
     */
    public record Frame(String type, String method, String file, int line) {
        public static Frame of(StackTraceElement element) {
            return new Frame(
                    element.getClassName(), element.getMethodName(), element.getFileName(), element.getLineNumber());
        }

        /** Returns the frame with its texts changed by an operator; the same frame if nothing changes. */
        Frame rewritten(UnaryOperator<String> operator) {
            String newType = operator.apply(type);
            String newMethod = operator.apply(method);
            String newFile = file == null ? null : operator.apply(file);
            boolean isSame = newType == type && newMethod == method && newFile == file;
            return isSame ? this : new Frame(newType, newMethod, newFile, line);
        }

        /** Parses the result of {@link #toString()}; any other text becomes a frame with that text as its type. */
        public static Frame parse(String text) {
            int open = text.lastIndexOf('(');
            int dot = open < 0 ? -1 : text.lastIndexOf('.', open);
            if (dot <= 0 || !text.endsWith(")")) {
                return new Frame(text, "", null, -1);
            }
            String type = text.substring(0, dot);
            String method = text.substring(dot + 1, open);
            String place = text.substring(open + 1, text.length() - 1);
            if (place.equals("native")) {
                return new Frame(type, method, null, -2);
            }
            if (place.equals("unknown")) {
                return new Frame(type, method, null, -1);
            }
            int colon = place.lastIndexOf(':');
            if (colon > 0) {
                try {
                    return new Frame(
                            type, method, place.substring(0, colon), Integer.parseInt(place.substring(colon + 1)));
                } catch (NumberFormatException e) {
                    return new Frame(text, "", null, -1);
                }
            }
            return new Frame(type, method, place, -1);
        }

        /** Returns class and method with the position in parentheses: {@code skerry.deck.Lanes.take(Lanes.java:42)}. */
        @Override
        public String toString() {
            if (method.isEmpty()) {
                return type;
            }
            String place = line == -2 ? "native" : file == null ? "unknown" : line < 0 ? file : file + ":" + line;
            return type + "." + method + "(" + place + ")";
        }
    }
}
