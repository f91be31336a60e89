package dev.graphema.benchmarks;

/** A program that writes a byte and ends: how long a JVM takes to start. */
final class Nothing {
    private Nothing() {}

    public static void main(String[] arguments) {
        System.out.write('.');
        System.out.flush();
    }
}
