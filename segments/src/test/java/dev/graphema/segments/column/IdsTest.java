package dev.graphema.segments.column;

import static java.nio.charset.StandardCharsets.US_ASCII;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.junit.jupiter.api.Test;

class IdsTest {
    private static final String ID = "4bf92f3577b34da6a3ce929d0e0e4736";

    @Test
    void digitsComeBack() {
        byte[] packed = new byte[Ids.MOST_BYTES];
        int count = Ids.pack(ID.getBytes(US_ASCII), 0, ID.length(), packed);
        byte[] digits = new byte[ID.length()];

        assertEquals(ID.length(), Ids.unpack(packed, 0, count, digits, 0));
        assertEquals(ID, new String(digits, US_ASCII));
    }

    @Test
    void onlyDigitsAreInAnId() {
        assertTrue(Ids.mayContain("bad".getBytes(US_ASCII)));
        assertTrue(Ids.mayContain(ID.getBytes(US_ASCII)));
        assertFalse(Ids.mayContain("lane".getBytes(US_ASCII)));
        assertFalse(Ids.mayContain("ab cd".getBytes(US_ASCII)));
        assertFalse(Ids.mayContain((ID + "0").getBytes(US_ASCII)));
    }
}
