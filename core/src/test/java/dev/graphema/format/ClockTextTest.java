package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.text.Times;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ClockTextTest {
    private static final DateTimeFormatter BOTH = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss.SSS", Locale.ROOT);

    @ParameterizedTest
    @ValueSource(
            strings = {"UTC", "Europe/Oslo", "Australia/Lord_Howe", "America/St_Johns", "Africa/Monrovia", "-03:30"})
    void clocksAreWrittenAsTheJdkWritesThem(String id) {
        ZoneId zone = ZoneId.of(id);
        ClockText time = ClockText.timeOfDay(zone);
        ClockText both = ClockText.dateAndTime(zone);
        Random random = new Random(7);
        long nanos = Times.epochNanos(Instant.parse("1969-12-31T23:59:59.999Z"));
        for (int i = 0; i < 20_000; i++) {
            String expected = BOTH.format(Times.instant(nanos).atZone(zone));
            assertEquals(expected, both.text(nanos));
            assertEquals(expected.substring(11), time.text(nanos));
            // Mostly on by up to some hours, as events come, over all changes of the clock; at times far back or on.
            nanos = random.nextInt(500) == 0
                    ? random.nextLong() >> random.nextInt(30)
                    : nanos + (random.nextLong() >>> 20 + random.nextInt(30));
        }
    }
}
