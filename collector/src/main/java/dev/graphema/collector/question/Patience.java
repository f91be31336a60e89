package dev.graphema.collector.question;

import dev.graphema.query.source.Control;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;

/**
 * Ends the reading for an answer when it takes too long, which the answer states, or when nobody waits for it any more. That is
 * found by writing blanks, which JSON allows before a value. Called by one thread at a time.
 */
final class Patience implements Control {
    private static final long SIGN_OF_LIFE_NANOS = 500_000_000L;
    private static final byte[] BLANK = {' '};

    private final OutputStream output;
    private final boolean isShowing;
    private final long end;
    private long next = System.nanoTime() + SIGN_OF_LIFE_NANOS;
    private boolean isAlone;

    /**
     * @param isShowing whether the progress is written as server-sent events, instead of blanks
     * @param longest how long may be read
     */
    Patience(OutputStream output, boolean isShowing, Duration longest) {
        this.end = System.nanoTime() + longest.toNanos();
        this.output = output;
        this.isShowing = isShowing;
    }

    @Override
    public boolean continues(Progress progress) {
        long now = System.nanoTime();
        if (now - next > 0 && !isAlone) {
            next = now + SIGN_OF_LIFE_NANOS;
            try {
                output.write(isShowing ? shown(progress) : BLANK);
                output.flush();
            } catch (IOException e) {
                isAlone = true; // the answer is for nobody
            }
        }
        return !isAlone && now - end < 0;
    }

    private static byte[] shown(Progress progress) {
        return ("event: progress\ndata: {\"events\":" + progress.events() + ",\"bytes\":" + progress.bytes()
                        + ",\"totalBytes\":" + progress.totalBytes() + "}\n\n")
                .getBytes(StandardCharsets.US_ASCII);
    }
}
