package dev.graphema.examples;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import skerry.bank.Bank;
import skerry.booking.BookingService;
import skerry.deck.DeckService;
import skerry.gate.GateService;
import skerry.service.Harbour;

/** The running ferry operator: four service processes and the bank, in one folder. Closing it stops them. */
final class SkerryLine implements AutoCloseable {
    private static final List<String> SETTINGS = List.of("booking.yaml", "deck.yaml", "gate.yaml");

    private final Path folder;
    private final Harbour harbour;
    private final Consumer<String> screen;
    private final Map<String, ServiceProcess> services = new HashMap<>();
    private final Bank bank;

    private SkerryLine(Path folder, Harbour harbour, Consumer<String> screen, Bank bank) {
        this.folder = folder;
        this.harbour = harbour;
        this.screen = screen;
        this.bank = bank;
    }

    /** Starts all services; settings, logs and ports are in the folder. */
    static SkerryLine start(Path folder, Variant variant, Consumer<String> screen)
            throws IOException, InterruptedException {
        Files.createDirectories(folder.resolve("settings"));
        for (String name : SETTINGS) {
            try (InputStream settings = SkerryLine.class.getResourceAsStream("/skerry/" + name)) {
                String text = new String(settings.readAllBytes(), StandardCharsets.UTF_8);
                Files.writeString(folder.resolve("settings").resolve(name), variant.settings(text));
            }
        }
        Harbour harbour = new Harbour(folder.resolve("run"));
        SkerryLine line = new SkerryLine(folder, harbour, screen, Bank.open(harbour));
        try {
            line.run(GateService.class, "gate", "2.4.0");
            line.run(DeckService.class, "deck-1", "2.4.0");
            line.run(DeckService.class, "deck-2", "2.4.0");
            line.run(BookingService.class, "booking", "2.4.0");
            return line;
        } catch (IOException | InterruptedException e) {
            line.close();
            throw e;
        }
    }

    Harbour harbour() {
        return harbour;
    }

    /** Replaces the running deck service by another release. */
    void release(String instance, String release) throws IOException, InterruptedException {
        services.remove(instance).stop();
        run(DeckService.class, instance, release);
    }

    private void run(Class<?> main, String instance, String release) throws IOException, InterruptedException {
        services.put(instance, ServiceProcess.start(main, instance, release, folder, harbour, screen));
    }

    @Override
    public void close() throws IOException, InterruptedException {
        Deque<ServiceProcess> running = new ArrayDeque<>(services.values());
        services.clear();
        bank.close();
        stopAll(running);
    }

    /** Stops all services, also if one of them fails. */
    private static void stopAll(Deque<ServiceProcess> running) throws IOException, InterruptedException {
        if (!running.isEmpty()) {
            try {
                running.pop().stop();
            } finally {
                stopAll(running);
            }
        }
    }
}
