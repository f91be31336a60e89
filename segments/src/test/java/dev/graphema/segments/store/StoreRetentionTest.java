package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StoreRetentionTest {
    private static final Instant START = Instant.parse("2026-05-15T06:00:00Z");

    @TempDir
    private Path folder;

    private Instant now = START.plus(Duration.ofMinutes(1));
    private final List<String> errors = new CopyOnWriteArrayList<>();

    @Test
    void eachEventIsKeptByItsFirstMatchingRule() throws IOException {
        rules("""
                retention:
                  - {when: level <= debug, keep: 3d}
                  - {when: service = booking, keep: 90d}
                  - {keep: 30d}
                """);
        try (Store store = open()) {
            store.append(lines(
                    event("debug", "booking", "detail"),
                    event("info", "booking", "booked"),
                    event("info", "deck", "lane closed")));
            assertEquals(List.of("detail", "booked", "lane closed"), after(store, Duration.ofDays(2)));
            assertEquals(List.of("booked", "lane closed"), after(store, Duration.ofDays(4)));
            assertEquals(List.of("booked"), after(store, Duration.ofDays(31)));
            assertEquals(List.of(), after(store, Duration.ofDays(91)));
        }
        assertEquals(List.of(), errors);
        List<String> deleted = Files.readAllLines(folder.resolve("deleted.jsonl"));
        assertEquals(3, deleted.size());
        assertTrue(deleted.get(0).contains("\"reason\":\"rule 1: level <= debug, keep: 3d\""), deleted.get(0));
        assertTrue(deleted.get(2).contains("\"lines\":1,"), deleted.get(2));
    }

    @Test
    void otherRulesApplyToEventsThatAreStoredAlready() throws IOException {
        try (Store store = open()) {
            store.append(lines(event("debug", "deck", "detail"), event("info", "deck", "lane closed")));
            assertEquals(List.of("detail", "lane closed"), after(store, Duration.ofDays(900)));
            rules("retention: {when: level <= debug, keep: 3d}\n");
            assertEquals(List.of("lane closed"), after(store, Duration.ofDays(900)));
            rules("retention: [{when: message exists, keep: 3d}]\n");
            assertEquals(List.of(), after(store, Duration.ofDays(900)));
        }
    }

    @Test
    void theOldestEventsAreDeletedIfThereAreTooManyBytes() throws IOException {
        rules("retention: {when: service = deck, total: 1KB}\n");
        try (Store store = open()) {
            for (int day = 0; day < 5; day++) {
                now = START.plus(Duration.ofDays(day));
                store.append(lines(event("info", "deck", "day " + day), event("info", "gate", "day " + day)));
                store.tidy();
            }
            List<String> left = StoreTest.messages(store.source());
            assertTrue(left.size() > 5 && left.size() < 10, left.toString());
            assertEquals(List.of("day 0", "day 1"), left.subList(0, 2)); // those of the gate
            assertEquals(List.of("day 4", "day 4"), left.subList(left.size() - 2, left.size()));
        }
    }

    @Test
    void aLegalHoldKeepsItsEventsUntilItIsLifted() throws IOException {
        String retention = "retention: {keep: 3d}\n";
        rules(retention + "holds: {name: case 17, when: message = held, during: 2026-05-15/2026-05-16}\n");
        try (Store store = open()) {
            store.append(lines(event("info", "deck", "held"), event("info", "deck", "other")));
            now = START.plus(Duration.ofDays(2));
            store.append(lines(event("info", "deck", "held")));
            assertEquals(List.of("held", "other", "held"), after(store, Duration.ofDays(2)));
            assertEquals(List.of("held"), after(store, Duration.ofDays(9)));
            assertEquals(List.of("held"), after(store, Duration.ofDays(99)));
            rules(retention);
            assertEquals(List.of(), after(store, Duration.ofDays(99)));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void invalidRulesAreRefusedWithPlaceAndExpectation() throws IOException {
        expect("retention: [{keep: long}]", ":1: \"long\" is not a duration: expected one such as 30d");
        expect("retention:\n  - {when: level <=, keep: 3d}", ":2: ");
        expect("retention:\n  - {when: level = info}", ":2: the rule limits nothing: expected keep, total or both");
        expect("retention: {total: much}", "\"much\" is not a size: expected one such as 200GB");
        expect("retain: {keep: 3d}", "\"retain\" is not known: expected one of retention, holds");
        expect("holds: {when: level = info}", "the hold has no name");
        expect("holds: {name: a, during: now}", "\"now\" is not a valid interval");
        expect("holds: {name: [", "not YAML");
    }

    private void expect(String rules, String message) throws IOException {
        rules(rules);
        IOException refused = assertThrows(IOException.class, this::open);
        assertTrue(refused.getMessage().contains(message), refused.getMessage());
    }

    private List<String> after(Store store, Duration later) throws IOException {
        now = START.plus(later).plusSeconds(1);
        store.tidy();
        assertEquals(List.of(), StoreCheck.damage(folder));
        return StoreTest.messages(store.source());
    }

    private void rules(String rules) throws IOException {
        Files.writeString(folder.resolve(StoreRules.FILE), rules);
    }

    private Store open() throws IOException {
        StoreOptions usual = StoreOptions.usual(errors::add);
        return Store.open(
                folder,
                new StoreOptions(usual.logBytes(), usual.logAge(), usual.replacedAge(), () -> now, usual.error()));
    }

    private String event(String level, String service, String message) {
        return "{\"time\":\"%s.000000000Z\",\"level\":\"%s\",\"service\":\"%s\",\"message\":\"%s\"}\n"
                .formatted(now.toString().replace("Z", ""), level, service, message);
    }

    private static byte[] lines(String... lines) {
        return String.join("", lines).getBytes(StandardCharsets.UTF_8);
    }
}
