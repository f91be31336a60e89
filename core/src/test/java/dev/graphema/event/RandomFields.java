package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.AbstractMap;
import java.util.AbstractSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/** Fields of all kinds, among them secrets, hostile texts, and objects that throw exceptions. */
public final class RandomFields {
    static final String CARD = "4111 1111 1111 1111";
    private static final String[] NAMES = {"booking", "lane", "deck", "ü", "x\"y", "見", "password", "n", "m", "k"};

    private RandomFields() {}

    private enum Tide {
        HIGH
    }

    private record Berth(String name, int depth) {}

    /**
     * Puts a few fields.
     *
     * @param depth groups are put up to depth 2
     */
    public static void put(FieldWriter fields, Random random, int depth) {
        for (int i = random.nextInt(5); i > 0; i--) {
            String name = NAMES[random.nextInt(NAMES.length)];
            switch (random.nextInt(depth < 2 ? 16 : 14)) {
                case 0 -> fields.put(name, "A3");
                case 1 -> fields.put(name, "B00" + random.nextInt(100));
                case 2 -> fields.put(name, random.nextInt(10));
                case 3 -> fields.put(name, random.nextBoolean() ? 4111111111111111L : random.nextLong());
                case 4 -> fields.put(name, random.nextInt(10) / 4.0);
                case 5 -> fields.put(name, random.nextBoolean());
                case 6 -> fields.put(name, (String) null);
                case 7 -> fields.put(name, Duration.ofMillis(random.nextInt(20)));
                case 8 -> fields.put(name, Instant.ofEpochSecond(random.nextInt()));
                case 9 -> fields.put(name, new BigDecimal("1234567890123.50"));
                case 10 -> fields.put(name, random.nextInt(6) == 0 ? "card " + CARD : "Tür \"9\" 橋");
                case 11 -> fields.put(name, random.nextInt(20) == 0 ? "wave ".repeat(4_000) : Tide.HIGH);
                case 12 -> fields.put(name, List.of("A3", random.nextInt(5), Map.of("lane", 'c')));
                case 13 -> fields.put(name, new Berth("north", random.nextInt(9)));
                case 14 -> fields.put(name, new Broken(random.nextInt(4)));
                default -> fields.group(name, g -> put(g, random, depth + 1));
            }
        }
    }

    /** A map whose entries end with an exception. */
    private static final class Broken extends AbstractMap<String, Object> {
        private final int count;

        Broken(int count) {
            this.count = count;
        }

        @Override
        public Set<Entry<String, Object>> entrySet() {
            return new AbstractSet<>() {
                @Override
                public Iterator<Entry<String, Object>> iterator() {
                    return new Iterator<>() {
                        private int next;

                        @Override
                        public boolean hasNext() {
                            return true;
                        }

                        @Override
                        public Entry<String, Object> next() {
                            if (next == count) {
                                throw new IllegalStateException("no more");
                            }
                            return Map.entry("k" + next++, "A3");
                        }
                    };
                }

                @Override
                public int size() {
                    return count;
                }
            };
        }
    }
}
