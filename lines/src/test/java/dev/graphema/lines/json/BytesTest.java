package dev.graphema.lines.json;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class BytesTest {
    /** Few kinds of bytes, among them the neighbours of those that are searched, so that each occurs at every place sooner or later. */
    private static final byte[] KINDS = {'{', '}', 'z', '|', '\n', 0x0B, (byte) 0xFB, 0, (byte) 0x80};

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void whatIsFoundByEightIsWhatIsFoundByOne(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 20_000; i++) {
            byte[] bytes = new byte[random.nextInt(60)];
            for (int k = 0; k < bytes.length; k++) {
                bytes[k] = KINDS[random.nextInt(i % 2 == 0 ? KINDS.length : 2 + random.nextInt(2))];
            }
            int to = bytes.length == 0 ? 0 : random.nextInt(bytes.length + 1);
            int from = to == 0 ? 0 : random.nextInt(to + 1);
            String where = "seed " + seed + ", " + from + " to " + to + " of " + Arrays.toString(bytes);
            assertEquals(first(bytes, from, to, '\n', '\n'), Bytes.indexOf('\n', bytes, from, to), where);
            assertEquals(first(bytes, from, to, '{', '}'), Bytes.indexOf('{', '}', bytes, from, to), where);
            assertEquals(last(bytes, from, to), Bytes.lastIndexOf('{', '}', bytes, from, to), where);
            byte[] ended = Arrays.copyOf(bytes, to + 1 + Bytes.BEHIND);
            ended[to] = '\n';
            assertEquals(first(ended, from, to + 1, '\n', '\n'), Bytes.next('\n', ended, from), where);
            byte[] wanted = Arrays.copyOfRange(bytes, from, to);
            int at = random.nextInt(bytes.length + 1);
            assertEquals(
                    at + wanted.length <= bytes.length
                            && Arrays.equals(bytes, at, at + wanted.length, wanted, 0, wanted.length),
                    Bytes.areAt(wanted, bytes, at, bytes.length),
                    where);
        }
    }

    private static int first(byte[] bytes, int from, int to, char one, char other) {
        for (int i = from; i < to; i++) {
            if (bytes[i] == one || bytes[i] == other) {
                return i;
            }
        }
        return -1;
    }

    private static int last(byte[] bytes, int from, int to) {
        for (int i = to - 1; i >= from; i--) {
            if (bytes[i] == '{' || bytes[i] == '}') {
                return i;
            }
        }
        return -1;
    }
}
