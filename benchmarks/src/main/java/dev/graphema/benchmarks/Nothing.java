package dev.graphema.benchmarks;

/** A program that does nothing: how long a JVM takes to start and to end. */
final class Nothing {
    private Nothing() {}

    public static void main(String[] arguments) {}
}
