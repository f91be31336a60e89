package dev.graphema.benchmarks;

/** A program that writes a byte and ends, to measure the start of a JVM. */
final class Nothing {
    private Nothing() {}

    public static void main(String[] arguments) {
        System.out.write('.');
        System.out.flush();
    }
}
