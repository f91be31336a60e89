package dev.graphema.segments.column;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

class TextPartsTest {
    private final Random random = new Random(4);
    private final ByteWriter written = new ByteWriter(64);

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static Texts.Builder texts(List<String> all) {
        Texts.Builder texts = new Texts.Builder();
        all.forEach(text -> texts.add(bytes(text), 0, bytes(text).length));
        return texts;
    }

    private static TextParts read(byte[] bytes) {
        return TextParts.read(new ByteReader(Arrays.copyOf(bytes, bytes.length + 9), bytes.length), bytes.length);
    }

    private String word() {
        return random.ints(random.nextInt(1, 8), 'a', 'k')
                .mapToObj(Character::toString)
                .collect(Collectors.joining());
    }

    /** Returns texts of few different words, as people write them. */
    private List<String> sentences() {
        List<String> words = new ArrayList<>();
        for (int i = 0; i < 100; i++) {
            words.add(i % 10 == 0 ? word().toUpperCase(Locale.ROOT) + "\u00f8" : word());
        }
        List<String> sentences = new ArrayList<>();
        for (int i = 0; i < 40_000; i++) {
            sentences.add(random.ints(8, 0, words.size()).mapToObj(words::get).collect(Collectors.joining(" ")));
        }
        return sentences;
    }

    @Test
    void everyPartOfATextIsFoundAndMostOthersAreNot() {
        List<String> sentences = sentences();
        assertTrue(TextParts.write(texts(sentences), written));
        assertTrue(written.length() < 1 << 17);
        TextParts parts = read(written.copy());
        for (String sentence : sentences) {
            byte[] all = bytes(sentence.toLowerCase(Locale.ROOT));
            int from = random.nextInt(all.length);
            int to = random.nextInt(from, all.length + 1);
            assertTrue(parts.mayContain(Arrays.copyOfRange(all, from, to)), sentence);
        }
        assertTrue(parts.mayContain(bytes("zzz")), "it is shorter than what is looked up");
        int wrong = 0;
        for (int i = 0; i < 1_000; i++) {
            String other =
                    random.ints(7, 'k', 'z').mapToObj(Character::toString).collect(Collectors.joining());
            wrong += parts.mayContain(bytes(other)) ? 1 : 0;
        }
        assertTrue(wrong < 50, wrong + " of 1000");
    }

    @Test
    void aFilterIsWrittenOnlyIfItIsSmall() {
        assertFalse(TextParts.write(texts(sentences().subList(0, 500)), written), "few texts");
        List<String> numbers = new ArrayList<>();
        for (int i = 0; i < 40_000; i++) {
            numbers.add(Long.toHexString(random.nextLong()));
        }
        assertFalse(TextParts.write(texts(numbers), written), "random digits");
        assertEquals(0, written.length());
    }

    @Test
    void aFilterOfAWrongLengthIsDamaged() {
        assertThrows(IndexOutOfBoundsException.class, () -> read(new byte[24]));
        assertThrows(IndexOutOfBoundsException.class, () -> read(new byte[4]));
    }
}
