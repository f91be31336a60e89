package dev.graphema;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** Commands in name spaces of their own, where they may mount file systems that nobody else sees; not on every machine. */
final class NameSpace {
    private NameSpace() {}

    /** Whether this machine can do that. */
    static boolean isPossible() {
        return run("true").isEmpty();
    }

    /** What the command prints on both streams, with "failed: " before it if the command fails. */
    static String run(String command) {
        try {
            Process process = new ProcessBuilder("unshare", "-rm", "sh", "-c", command)
                    .redirectErrorStream(true)
                    .start();
            String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            boolean ended = process.waitFor(5, TimeUnit.MINUTES) && process.exitValue() == 0;
            return ended ? output : "failed: " + output;
        } catch (IOException e) {
            return "failed: " + e;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return "failed: " + e;
        }
    }

    /** The command that runs a program of this module. */
    static String java(Class<?> program, Object... arguments) {
        StringBuilder command = new StringBuilder("'" + Path.of(System.getProperty("java.home"), "bin", "java")
                + "' -cp '" + System.getProperty("java.class.path") + "' '" + program.getName() + "'");
        for (Object argument : arguments) {
            command.append(" '").append(argument).append('\'');
        }
        return command.toString();
    }
}
