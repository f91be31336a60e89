package dev.graphema.benchmarks;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.lang.ProcessBuilder.Redirect;
import java.util.ArrayList;
import java.util.List;

/** Measures complete processes. */
final class Processes {
    private Processes() {}

    /**
     * Measures two commands in milliseconds: medians of alternating runs, so that a slow moment of the machine affects
     * both.
     *
     * @param rounds the number of rounds
     * @param times the runs of the first one per round; the second one runs once
     */
    static double[] inTurn(int rounds, int times, List<String> one, List<String> other)
            throws IOException, InterruptedException {
        List<Double> ones = new ArrayList<>();
        List<Double> others = new ArrayList<>();
        for (int round = 0; round < rounds; round++) {
            for (int i = 0; i < times; i++) {
                ones.add(millis(one, false));
            }
            others.add(millis(other, false));
        }
        return new double[] {median(ones), median(others)};
    }

    /** Measures a command in milliseconds: the median. */
    static double toEnd(int times, List<String> command) throws IOException, InterruptedException {
        List<Double> all = new ArrayList<>();
        for (int i = 0; i < times; i++) {
            all.add(millis(command, false));
        }
        return median(all);
    }

    /**
     * Measures the difference between two commands in the time to the first byte of output, in milliseconds: medians of
     * alternating runs.
     */
    static double longerToFirstByte(int times, List<String> one, List<String> other)
            throws IOException, InterruptedException {
        List<Double> ones = new ArrayList<>();
        List<Double> others = new ArrayList<>();
        for (int i = 0; i < times; i++) {
            ones.add(millis(one, true));
            others.add(millis(other, true));
        }
        return median(ones) - median(others);
    }

    private static double millis(List<String> command, boolean isToFirstByte) throws IOException, InterruptedException {
        long begin = System.nanoTime();
        ProcessBuilder builder = new ProcessBuilder(command).redirectError(Redirect.DISCARD);
        builder.environment().put("GRAPHEMA_RECENT", "off"); // what is measured is not among the user's own questions
        Process process = builder.start();
        try (InputStream output = process.getInputStream()) {
            int first = output.read();
            long atFirst = System.nanoTime();
            output.transferTo(OutputStream.nullOutputStream());
            int code = process.waitFor();
            boolean isAnswered = code == 0 || code == 1; // 1 if nothing is found
            if (!isAnswered || isToFirstByte && first < 0) {
                throw new IOException(String.join(" ", command) + " ended with " + code);
            }
            return ((isToFirstByte ? atFirst : System.nanoTime()) - begin) / 1e6;
        }
    }

    static double median(List<Double> values) {
        List<Double> sorted = values.stream().sorted().toList();
        int half = sorted.size() / 2;
        return sorted.size() % 2 == 1 ? sorted.get(half) : (sorted.get(half - 1) + sorted.get(half)) / 2;
    }

    /** Returns whether the command exists. */
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
