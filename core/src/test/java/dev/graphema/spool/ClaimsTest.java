package dev.graphema.spool;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ClaimsTest {
    @TempDir
    Path folder;

    @Test
    void aFileIsClaimedOnceUntilItIsGivenBack() {
        Path file = folder.resolve("a/../file");
        assertTrue(Claims.claim(file));
        assertFalse(Claims.claim(folder.resolve("file")));
        Claims.release(folder.resolve("file"));
        assertTrue(Claims.claim(file));
        Claims.release(file);
    }

    @Test
    void askingForAFileThatIsTakenDoesNotGiveItsLockBack() throws Exception {
        Path path = folder.resolve("file");
        try (OwnFile one = OwnFile.open(path);
                OwnFile two = OwnFile.open(path)) {
            assertEquals(path, one.path());
            assertEquals(Path.of(path + ".2"), two.path());
            assertEquals("taken", triedByAnotherProcess(path));
        }
        assertEquals("free", triedByAnotherProcess(path));
    }

    private static String triedByAnotherProcess(Path path) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        Program.class.getName(),
                        path.toString())
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.US_ASCII);
        process.waitFor();
        return output;
    }

    /** Prints whether it can lock a file. */
    static final class Program {
        public static void main(String[] arguments) throws Exception {
            try (FileChannel channel = FileChannel.open(Path.of(arguments[0]), StandardOpenOption.WRITE)) {
                System.out.print(channel.tryLock() == null ? "taken" : "free");
            }
        }
    }
}
