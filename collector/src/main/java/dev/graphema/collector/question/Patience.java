package dev.graphema.collector.question;

import dev.graphema.query.source.Control;
import java.io.IOException;
import java.io.OutputStream;

/**
 * Ends the reading for an answer when it takes too long, which the answer states, or when nobody waits for it any more. That is
 * found by writing blanks, which JSON allows before a value. Called by one thread at a time.
 */
final class Patience implements Control {
    private static final long LONGEST_NANOS = 60_000_000_000L;
    private static final long SIGN_OF_LIFE_NANOS = 500_000_000L;

    private final OutputStream output;
    private final long end = System.nanoTime() + LONGEST_NANOS;
    private long next = System.nanoTime() + SIGN_OF_LIFE_NANOS;
    private boolean isAlone;

    Patience(OutputStream output) {
        this.output = output;
    }

    @Override
    public boolean continues(Progress progress) {
        long now = System.nanoTime();
        if (now - next > 0 && !isAlone) {
            next = now + SIGN_OF_LIFE_NANOS;
            try {
                output.write(' ');
                output.flush();
            } catch (IOException e) {
                isAlone = true; // the answer is for nobody
            }
        }
        return !isAlone && now - end < 0;
    }
}
