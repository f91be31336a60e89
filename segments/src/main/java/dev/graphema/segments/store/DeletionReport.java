package dev.graphema.segments.store;

import dev.graphema.format.Json;
import dev.graphema.text.Times;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** The file {@code deleted.jsonl} of a store: an event in Graphema JSON for each deletion. For one thread. */
final class DeletionReport {
    private static final Pattern NUMBER = Pattern.compile("\"deletion\":([0-9]{1,18})");

    private final Path file;
    private long lastNumber;

    DeletionReport(StoreFolder folder) throws IOException {
        this.file = folder.path().resolve("deleted.jsonl");
        if (Files.exists(file)) {
            try (Stream<String> lines = Files.lines(file)) {
                lines.forEach(line -> {
                    Matcher number = NUMBER.matcher(line);
                    if (number.find()) {
                        lastNumber = Long.parseLong(number.group(1));
                    }
                });
            }
        }
    }

    long lastNumber() {
        return lastNumber;
    }

    /** Adds those deletions of the last change that are not reported yet. */
    void complete(List<Manifest.Deletion> deletions) throws IOException {
        for (Manifest.Deletion each : deletions) {
            if (each.number() > lastNumber) {
                add(each);
                lastNumber = each.number();
            }
        }
    }

    private void add(Manifest.Deletion deletion) throws IOException {
        String line = "{\"time\":\"" + deletion.at() + "\",\"level\":\"info\",\"logger\":\"store\","
                + "\"message\":\"Events deleted\",\"fields\":{\"deletion\":" + deletion.number() + ",\"reason\":"
                + Json.of(deletion.reason()) + ",\"lines\":" + deletion.lines() + ",\"from\":\""
                + Times.instant(deletion.from()) + "\",\"to\":\"" + Times.instant(deletion.to()) + "\"}}\n";
        try (FileChannel to =
                FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            ByteBuffer last = ByteBuffer.allocate(1);
            boolean isCutOff = to.size() > 0 && to.read(last, to.size() - 1) == 1 && last.get(0) != '\n';
            to.position(to.size());
            ByteBuffer bytes = ByteBuffer.wrap(((isCutOff ? "\n" : "") + line).getBytes(StandardCharsets.UTF_8));
            while (bytes.hasRemaining()) {
                to.write(bytes);
            }
            to.force(true);
        }
    }
}
