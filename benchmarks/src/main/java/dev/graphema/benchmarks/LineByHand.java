package dev.graphema.benchmarks;

/**
 * The line of the file, written by hand into an array, with one reading of the clock: a lower bound. For one thread.
 */
final class LineByHand {
    private final byte[] line = new byte[512];

    byte[] bytes() {
        return line;
    }

    /**
     * Writes the line.
     *
     * @return its length
     */
    int write() {
        int at = text(0, "{\"time\":\"");
        at = number(at, System.currentTimeMillis());
        at = text(
                at,
                "\",\"level\":\"info\",\"service\":\"deck\",\"instance\":\"deck-1\",\"logger\":\"skerry.deck.Lanes\",\"message\":\"lane taken\","
                        + "\"trace\":\"4bf92f3577b34da6a3ce929d0e0e4736\",\"fields\":{\"lane\":\"");
        at = text(at, "A3");
        at = text(at, "\",\"lock_wait_ms\":");
        at = number(at, 2);
        return text(
                at,
                ",\"vehicle\":\"coach\",\"length_m\":12.5,\"booking\":\"B0047113\",\"sailing\":\"SK-204\",\"tenant\":\"skerry\"}}\n");
    }

    private int text(int at, String text) {
        for (int i = 0; i < text.length(); i++) {
            line[at + i] = (byte) text.charAt(i);
        }
        return at + text.length();
    }

    private int number(int at, long number) {
        int digits = 1;
        for (long rest = number; rest >= 10; rest /= 10) {
            digits++;
        }
        long rest = number;
        for (int i = at + digits - 1; i >= at; i--) {
            line[i] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        return at + digits;
    }
}
