package dev.graphema.event;

/**
 * One number for all failures of the same kind at the same place in the code: made of the types of a failure and its
 * causes, and of the classes and methods of their innermost frames. Messages and line numbers do not count, nor do the
 * numbers that compilers and the JVM put into the names of lambdas, proxies and hidden classes; so it stays the same when
 * the message varies and when lines are added above. FNV-1a with 64 bits.
 */
final class Fingerprint {
    private static final int FRAMES = 5;
    private static final long BASIS = 0xcbf29ce484222325L;
    private static final long PRIME = 0x100000001b3L;

    private long hash = BASIS;

    private Fingerprint() {}

    /** 16 hexadecimal digits. */
    static String of(Failure failure) {
        Fingerprint fingerprint = new Fingerprint();
        for (Failure each = failure; each != null; each = each.cause()) {
            fingerprint.add(each.type());
            each.frames().stream().limit(FRAMES).forEach(frame -> {
                fingerprint.add(frame.type());
                fingerprint.add(frame.method());
            });
        }
        return Hex.digits(fingerprint.hash);
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
