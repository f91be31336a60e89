package dev.graphema.query.part;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TextPartTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
            lane A3 not free after 250ms                        | lane A<number> not free after <number>ms
            lane B12 not free after 1.5s                        | lane B<number> not free after <number>s
            sailing SK-204 has 38 passengers                    | sailing SK-<number> has <number> passengers
            Accepted publickey for deck from 10.0.0.7 port 50122 | Accepted publickey for deck from <address> port <number>
            connect to [fe80::1:2:3]:8080 failed (code=-7)      | connect to [<address>]:<number> failed (code=<number>)
            request 7f3a-41b0-9c1e done                         | request <id> done
            trace 4bf92f3577b34da6a3ce929d0e0e4736.             | trace <id>.
            user a1b2c3d4e5 logged in                           | user <id> logged in
            relation "lanes" does not exist at character 15     | relation "<text>" does not exist at character <number>
            can't open '/srv/x', isn't there                    | can't open '<text>', isn't there
            open /srv/www/x.html: no such file                  | open <path>: no such file
            GET https://skerry.example/a?b=1 took 5%            | GET <url> took <number>%
            mail from anna@skerry.example                       | mail from <address>
            started at 2026-11-23 05:01:56.022, ended 05:02:00  | started at <time>, ended <time>
            at 2026-11-23T05:01:56Z: x=1 y=two                  | at <time>: x=<number> y=two
            booking B0047113 and pass P074016                   | booking B<number> and pass P<number>
            Slow checkpoint                                     | Slow checkpoint
            100 % of [1, 2]                                     | <number> % of [<number>, <number>]
            """)
    void theShapeOfATextHasKindsInsteadOfValues(String text, String shape) {
        assertEquals(shape, TextShape.of(text));
        assertEquals(shape, TextShape.of(text + "\nmore"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            url.host   | https://anna@skerry.example:8443/lanes?x=1 | skerry.example
            url.host   | 10.0.0.7:50122                             | 10.0.0.7
            url.host   | http://[fe80::1]:80/                       | [fe80::1]
            url.path   | https://skerry.example/lanes/A3?x=1#y      | /lanes/A3
            url.path   | /sailings?day=friday                       | /sailings
            url.path   | https://skerry.example                     | /
            url.word   | GET /lanes                                 | GET
            url.length | /lanes                                     | 6
            """)
    void aPartByItsKind(String name, String text, String part) {
        assertEquals(part, TextPart.named(name).value(text));
    }

    @Test
    void aPartByAPattern() {
        TextPart lane = TextPart.parse("lane=message:lane (\\S+)");

        assertEquals(
                "A3", lane.value(Draft.ofWritten().message("lane A3 not free").finish()));
        assertNull(lane.value(Draft.ofWritten().message("started").finish()));
        assertEquals("lane=message:lane (\\S+)", lane.toString());
        assertEquals(
                "<number>",
                TextPart.parse("s=wait:shape")
                        .value(Draft.ofWritten().fields(f -> f.put("wait", "7")).finish()));
        assertNull(TextPart.named("message"));
        assertNull(TextPart.named("service.name"));
    }

    @Test
    void howOftenAPatternIsFound() {
        TextPart losses = TextPart.parse("losses=message:count:lost|missing");

        assertEquals("2", losses.value("lane A3 lost, gate missing"));
        assertEquals("0", losses.value("started"));
        assertEquals("losses=message:count:lost|missing", losses.toString());
        assertNull(TextPart.named("message.count"), "it has no pattern");
        for (String wrong : new String[] {"losses=message:count", "losses=message:count:"}) {
            assertTrue(assertThrows(IllegalArgumentException.class, () -> TextPart.parse(wrong))
                    .getMessage()
                    .contains("expected count: and a pattern"));
        }
    }

    @Test
    void aWrongDefinitionIsExplained() {
        for (String wrong : new String[] {"lane", "lane=message", "=message:shape", "lane=:shape", "lane=message:"}) {
            assertTrue(assertThrows(IllegalArgumentException.class, () -> TextPart.parse(wrong))
                    .getMessage()
                    .contains("is not a valid part: expected a name, =, a field"));
        }
        assertThrows(IllegalArgumentException.class, () -> TextPart.parse("lane=message:("));
    }

    @Test
    void theShapeOfALongTextIsFoundInOnePass() {
        for (String piece : new String[] {"'", "\"", "a1", "1.", "/", "<", "@.", "0000-", "\\"}) {
            assertTrue(TextShape.of(piece.repeat(200_000)).length() <= 300);
        }
    }
}
