package dev.graphema.lines.time;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.text.Times;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class TimeReaderTest {
    private static final long NEAR = Times.epochNanos(Instant.parse("2026-12-20T00:00:00Z"));
    private final TimeReader reader = new TimeReader(TimeRules.USUAL);
    private final TimeReader dated = new TimeReader(TimeRules.USUAL.near(NEAR));

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            2026-05-15T06:31:02Z                    | 2026-05-15T06:31:02Z
            2026-05-15T07:31:02.5+01:00             | 2026-05-15T06:31:02.5Z
            2026-05-15T07:31:02.5+01                | 2026-05-15T06:31:02.5Z
            2026-05-15T05:31:02−01:00               | 2026-05-15T06:31:02Z
            2026-05-15T07:31:02+01:00[Europe/London]| 2026-05-15T06:31:02Z
            2026-05-15T06:31Z                       | 2026-05-15T06:31:00Z
            2026-05-15                              | 2026-05-15T00:00:00Z
            2026-05-15t06:31:02z                    | 2026-05-15T06:31:02Z
            2026-05-15 07:31:02.123 +0100           | 2026-05-15T06:31:02.123Z
            2026-05-15 06:31:02,123                 | 2026-05-15T06:31:02.123Z
            2026-05-15 06:31:02.123456789012 UTC    | 2026-05-15T06:31:02.123456789Z
            2026-05-15 06:31:02:123                 | 2026-05-15T06:31:02.123Z
            2026-05-15 24:00:00                     | 2026-05-16T00:00:00Z
            2026-06-30T23:59:60Z                    | 2026-07-01T00:00:00Z
            2026/05/15 06:31:02                     | 2026-05-15T06:31:02Z
            2026/05/15 06:31:02.123456              | 2026-05-15T06:31:02.123456Z
            2026-May-15 06:31:02                    | 2026-05-15T06:31:02Z
            20260515T063102Z                        | 2026-05-15T06:31:02Z
            20260515T073102.5+0100                  | 2026-05-15T06:31:02.5Z
            20260515 063102                         | 2026-05-15T06:31:02Z
            20260515 06:31:02                       | 2026-05-15T06:31:02Z
            20260515-06:31:02.123                   | 2026-05-15T06:31:02.123Z
            20260515063102                          | 2026-05-15T06:31:02Z
            20260515                                | 2026-05-15T00:00:00Z
            15 May 2026 06:31:02.022                | 2026-05-15T06:31:02.022Z
            15-May-2026 06:31:02                    | 2026-05-15T06:31:02Z
            15/May/2026:07:31:02 +0100              | 2026-05-15T06:31:02Z
            [15/May/2026:07:31:02 +0100]            | 2026-05-15T06:31:02Z
            Fri, 15 May 2026 06:31:02 GMT           | 2026-05-15T06:31:02Z
            Friday, 15 May 2026 06:31:02            | 2026-05-15T06:31:02Z
            Fri May 15 06:31:02 2026                | 2026-05-15T06:31:02Z
            Fri May 15 06:31:02.123456 2026         | 2026-05-15T06:31:02.123456Z
            Fri May 15 06:31:02 UTC 2026            | 2026-05-15T06:31:02Z
            May 15, 2026 6:31:02 AM                 | 2026-05-15T06:31:02Z
            May 15, 2026, 6:31:02 pm                | 2026-05-15T18:31:02Z
            September 5, 2026 12:31:02 AM           | 2026-09-05T00:31:02Z
            15.05.2026 06:31:02                     | 2026-05-15T06:31:02Z
            15.05.2026                              | 2026-05-15T00:00:00Z
            05.06.2026 06:31:02                     | 2026-06-05T06:31:02Z
            05/15/2026 06:31:02                     | 2026-05-15T06:31:02Z
            15/05/2026 06:31:02                     | 2026-05-15T06:31:02Z
            5/15/2026 6:31:02 PM                    | 2026-05-15T18:31:02Z
            2026-07-01 12:00:00 EST                 | 2026-07-01T17:00:00Z
            2026-07-01 12:00:00 CET                 | 2026-07-01T11:00:00Z
            2026-07-01 12:00:00 GMT+01:00           | 2026-07-01T11:00:00Z
            1778826662                              | 2026-05-15T06:31:02Z
            1778826662.5                            | 2026-05-15T06:31:02.5Z
            1778826662123                           | 2026-05-15T06:31:02.123Z
            1778826662123.25                        | 2026-05-15T06:31:02.12325Z
            1778826662123456                        | 2026-05-15T06:31:02.123456Z
            1778826662123456789                     | 2026-05-15T06:31:02.123456789Z
            """)
    void theTimeOfATextDoesNotDependOnItsForm(String text, Instant expected) {
        assertEquals(expected, Times.instant(reader.parse(text)));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "noon",
                "12",
                "12:31",
                "2026-05",
                "2026-13-01T00:00:00Z",
                "2026-02-30 12:00:00",
                "30/Feb/2026:12:00:00 +0000",
                "2026-05-15T25:00:00Z",
                "2026-05-15T06:61:00Z",
                "2026-05-15 06:31:02 and more",
                "99999999999999999999",
                "9999-01-01T00:00:00Z",
                "1500-01-01T00:00:00Z",
                "10.20.30.40",
                "1.2.2026.4 build",
                "SK-2026-05-15",
                "2026-07-01 12:00:00 IST",
                "May 15, 2026 13:31:02 PM",
                "Nov 23 05:10:46",
                "Monitor 5 06:31:02"
            })
    void otherTextsAreNotTimes(String text) {
        assertNull(reader.parse(text));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Nov 23 05:10:46      | 2026-11-23T05:10:46Z
            Nov  3 05:10:46.5    | 2026-11-03T05:10:46.5Z
            23 Nov 05:10:46      | 2026-11-23T05:10:46Z
            Jan 2 05:10:46       | 2027-01-02T05:10:46Z
            Feb 29 05:10:46      |
            """)
    void withoutAYearItIsTheOneClosestToTheLog(String text, Instant expected) {
        Long parsed = dated.parse(text);

        assertEquals(expected, parsed == null ? null : Times.instant(parsed));
        assertTrue(dated.isYearAssumed());
    }

    @Test
    void theLogDecidesAboutDayAndMonth() {
        assertNull(reader.parse("11/12/2026 05:01:56"));
        assertTrue(reader.isOrderUnknown());
        assertEquals(
                Instant.parse("2026-12-11T05:01:56Z"),
                Times.instant(new TimeReader(TimeRules.USUAL.order(DateOrder.DAY_FIRST)).parse("11/12/2026 05:01:56")));
        assertEquals(
                Instant.parse("2026-11-12T05:01:56Z"),
                Times.instant(
                        new TimeReader(TimeRules.USUAL.order(DateOrder.MONTH_FIRST)).parse("11/12/2026 05:01:56")));
        reader.parse("11/23/2026 05:01:56");
        assertEquals(DateOrder.MONTH_FIRST, reader.provenOrder());
    }

    @Test
    void theUserDefinesZonesAndForms() {
        assertNull(reader.parse("2026-07-01 12:00:00 IST"));
        assertEquals("IST", reader.doubtfulZone());
        TimeRules rules = TimeRules.USUAL.zones("IST=+05:30,CST=-06:00").format("yy/MM/dd HH.mm.ss");
        TimeReader defined = new TimeReader(rules);

        assertEquals(Instant.parse("2026-07-01T06:30:00Z"), Times.instant(defined.parse("2026-07-01 12:00:00 IST")));
        assertEquals(Instant.parse("2026-07-01T12:30:02Z"), Times.instant(defined.parse("26/07/01 12.30.02")));
        assertEquals(17, defined.read("26/07/01 12.30.02 INFO started", 0));
        assertEquals(
                "\"IST\" is not a valid zone: expected a name and its offset, such as IST=+05:30",
                assertThrows(IllegalArgumentException.class, () -> TimeRules.USUAL.zones("IST"))
                        .getMessage());
        assertThrows(IllegalArgumentException.class, () -> TimeRules.USUAL.format("bogus{"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            2026-05-15 06:31:02.123 INFO  started        | 2026-05-15 06:31:02.123
            2026-05-15T06:31:02Z started                 | 2026-05-15T06:31:02Z
            2026-05-15 06:31:02,123 [main] started       | 2026-05-15 06:31:02,123
            2026-05-15 06:31:02 UTC [812] started        | 2026-05-15 06:31:02 UTC
            2026-05-15 06:31:02 - started                | 2026-05-15 06:31:02
            2026-05-15 06:31:02: started                 | 2026-05-15 06:31:02
            May 15 06:31:02 deck-2 kernel: started       | May 15 06:31:02
            Fri May 15 06:31:02 2026 started             | Fri May 15 06:31:02 2026
            15/May/2026:07:31:02 +0100] started          | 15/May/2026:07:31:02 +0100
            2026/05/15 06:31:02 started                  | 2026/05/15 06:31:02
            2026-05-15 started                           |
            """)
    void aTimeIsReadAtTheBeginningOfALine(String line, String time) {
        int end = dated.read(line, 0);

        assertEquals(time, end < 0 ? null : line.substring(0, end));
        if (end > 0) {
            assertEquals(dated.parse(time), end < 0 ? null : dated.nanos());
        }
    }

    @Test
    void dateAndTimeMayBeWrittenApart() {
        assertEquals(Instant.parse("2026-05-15T06:31:02.5Z"), Times.instant(reader.parse("2026-05-15", "06:31:02.5")));
        assertNull(reader.parse("2026-05-15", "2026-05-15T06:31:02Z"));
        assertNull(reader.parse("2026-05-15", "late"));
    }

    /** What the formatters of the JDK write is read as they read it. */
    @Test
    void randomTimesAreReadInManyForms() {
        Random random = new Random(20);
        List<String> patterns = List.of(
                "uuuu-MM-dd HH:mm:ss.SSSSSS",
                "uuuu/MM/dd HH:mm:ss",
                "uuuuMMdd'T'HHmmss",
                "dd MMM uuuu HH:mm:ss.SSS",
                "dd/MMM/uuuu:HH:mm:ss Z",
                "EEE MMM dd HH:mm:ss uuuu",
                "EEE, dd MMM uuuu HH:mm:ss 'GMT'",
                "MMM d, uuuu h:mm:ss a",
                "dd.MM.uuuu HH:mm:ss",
                "EEEE, dd MMMM uuuu HH:mm:ss",
                "uuuu-MM-dd'T'HH:mm:ssXXX");
        for (int i = 0; i < 2_000; i++) {
            String pattern = patterns.get(random.nextInt(patterns.size()));
            DateTimeFormatter format =
                    DateTimeFormatter.ofPattern(pattern, Locale.ENGLISH).withZone(ZoneOffset.UTC);
            String text = format.format(
                    Instant.ofEpochSecond(random.nextInt(Integer.MAX_VALUE), random.nextInt(1_000_000_000)));
            Instant expected = format.parse(text, Instant::from);
            assertEquals(expected, Times.instant(reader.parse(text)), text);
        }
    }
}
