package dev.graphema.benchmarks;

import java.io.IOException;
import java.lang.ProcessBuilder.Redirect;
import java.util.Arrays;
import java.util.List;

/** Whole processes, from their start to their end. */
final class Processes {
    private Processes() {}

    /** How long it took, half of the times less. */
    static double medianMillis(int times, List<String> command) throws IOException, InterruptedException {
        double[] millis = new double[times];
        for (int i = 0; i < times; i++) {
            long begin = System.nanoTime();
            Process process = new ProcessBuilder(command)
                    .redirectOutput(Redirect.DISCARD)
                    .redirectError(Redirect.DISCARD)
                    .start();
            int code = process.waitFor();
            if (code != 0) {
                throw new IOException(String.join(" ", command) + " ended with " + code);
            }
            millis[i] = (System.nanoTime() - begin) / 1e6;
        }
        Arrays.sort(millis);
        return millis[times / 2];
    }

    /** Whether the command is there at all. */
    static boolean isInstalled(String command) {
        try {
            return new ProcessBuilder(command, "--version")
                            .redirectOutput(Redirect.DISCARD)
                            .redirectError(Redirect.DISCARD)
                            .start()
                            .waitFor()
                    == 0;
        } catch (IOException e) {
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }
}
