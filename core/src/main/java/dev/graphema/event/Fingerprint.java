package dev.graphema.event;

import dev.graphema.text.Hex;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * A number for all failures of the same kind at the same place in the code, computed from the types of a failure and
 * its causes, and from the classes and methods of their innermost frames. It is independent of messages, line numbers,
 * and the numbers in generated names of lambdas, proxies and hidden classes. FNV-1a with 64 bits.
 *
 * <p>Wrappers that the JDK adds to exceptions of tasks, reflective calls and proxies are ignored.
 */
final class Fingerprint {
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
