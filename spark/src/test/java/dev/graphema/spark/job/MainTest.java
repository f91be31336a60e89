package dev.graphema.spark.job;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import org.apache.commons.cli.ParseException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MainTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "--lake a | expected one of ingest, tidy, export",
                "tidy | --lake is missing",
                "ingest --lake a | --servers is missing",
                "ingest --lake a --servers b --topic c --checkpoint d --every soon | --every soon is not a duration: expected such as 30s",
                "sweep --lake a | \"sweep\" is not known: expected ingest, tidy or export",
                "export --lake a | --in is missing"
            })
    void wrongArgumentsAreReportedBeforeSparkStarts(String arguments, String expected) {
        ParseException problem = assertThrows(ParseException.class, () -> Main.run(arguments.split(" ")));
        assertEquals(expected, problem.getMessage());
    }
}
