package dev.graphema.collector;

import java.nio.file.Path;

/** A collector in a process of its own: prints its port, and runs until it is killed. The second argument is
 * the port. */
final class CollectorProgram {
    private CollectorProgram() {}

    public static void main(String[] arguments) throws Exception {
        Collector collector = Collector.start(CollectorOptions.usual(Path.of(arguments[0]), System.err::println)
                .port(arguments.length > 1 ? Integer.parseInt(arguments[1]) : 0));
        System.out.println(collector.port());
        Thread.sleep(Long.MAX_VALUE);
    }
}
