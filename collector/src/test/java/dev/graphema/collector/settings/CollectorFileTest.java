package dev.graphema.collector.settings;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.Certificates;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CollectorFileTest {
    @TempDir
    private Path folder;

    private CollectorOptions read(String text) throws IOException {
        return CollectorFile.read(Files.writeString(folder.resolve("collector.yaml"), text), problem -> {});
    }

    private String error(String text) {
        return assertThrows(IOException.class, () -> read(text)).getMessage();
    }

    @Test
    void everythingCanBeSet() throws IOException {
        Certificates.create(folder.resolve("collector.p12"));
        Files.writeString(folder.resolve("graphema.yaml"), "redaction: {keys: {pin: remove}}\n");
        System.setProperty("COLLECTOR_TEST_PASSWORD", Certificates.PASSWORD);
        List<String> summary = read("""
                        listen: 0.0.0.0:7443
                        tls: {file: collector.p12, password: "${COLLECTOR_TEST_PASSWORD}"}
                        store: kept
                        environment: production
                        stamp: false
                        redaction: graphema.yaml
                        """).summary();
        String all = String.join("\n", summary);
        for (String each : List.of(
                "https://0.0.0.0:7443",
                folder.resolve("collector.p12").toString(),
                folder.resolve("kept").toString(),
                "production",
                "stamp:       none",
                "pin=remove")) {
            assertTrue(all.contains(each), all);
        }
    }

    @Test
    void anEmptyFileIsTheUsual() throws IOException {
        assertEquals(
                CollectorOptions.usual(folder.resolve("store"), problem -> {}).summary(), read("").summary());
    }

    @Test
    void everyErrorIsReportedWithItsPlace() throws IOException {
        Files.writeString(folder.resolve("graphema.yaml"), "redaction: {keys: {pin: gone}}\n");
        String[] errors = error("""
                        listen: nowhere
                        tls: {file: a.p12}
                        stor: x
                        stamp: maybe
                        environment: "${NOT_SET_ANYWHERE}"
                        redaction: graphema.yaml
                        """).split(System.lineSeparator());
        assertEquals(6, errors.length, String.join("\n", errors));
        String all = String.join("\n", errors);
        for (String each : List.of(
                "collector.yaml:1: listen: \"nowhere\" is not an address and a port: expected such as 127.0.0.1:7070",
                "collector.yaml:2: password is missing: expected its password",
                "collector.yaml:3: \"stor\" is not known: expected one of listen",
                "did you mean store?",
                "collector.yaml:4: stamp: \"maybe\" is not true or false: expected whether events",
                "collector.yaml:5: environment: the variable NOT_SET_ANYWHERE is not set",
                "graphema.yaml:1")) {
            assertTrue(all.contains(each), all);
        }
        assertTrue(error("- a").contains("expected a mapping with listen"), error("- a"));
        assertTrue(error("tls: x").contains("collector.yaml:1: expected a mapping with file, password"));
        assertTrue(error("redaction: none.yaml").contains("redaction: cannot be read"), error("redaction: none.yaml"));
    }

    @Test
    void topicsCanBeRead() throws IOException {
        String all = String.join("\n", read("""
                        topics:
                          - {servers: "broker-1:9092,broker-2:9092", topic: skerry}
                          - {servers: "broker-1:9092", topic: gates, group: night, client: client.properties, takeover: 30s,
                             source: gate, environment: test}
                        """).summary());
        assertTrue(
                all.contains("topic:       skerry at broker-1:9092,broker-2:9092, group graphema, taken over after 2m"),
                all);
        assertTrue(
                all.contains("topic:       gates at broker-1:9092, group night, with the settings in "
                        + folder.resolve("client.properties")
                        + ", taken over after 30s, source gate, environment test"),
                all);
        String errors = error("topics: [{topic: a, takeover: 1s}, {servers: a, topic: b, takeover: 1h}]");
        assertTrue(errors.contains("servers is missing: expected addresses such as"), errors);
        assertTrue(errors.contains("takeover: \"1h\" is not a duration from 6s to 30m: expected such as 2m"), errors);
    }

    @Test
    void topicsNeedALibraryThatReadsThem() throws IOException {
        CollectorOptions options =
                read("topics: [{servers: \"broker-1:9092\", topic: skerry}]").port(0);
        IOException problem =
                assertThrows(IOException.class, () -> Collector.start(options).close());
        assertTrue(
                problem.getMessage().contains("the library graphema-kafka is missing; name it, and the folder of its"),
                problem.getMessage());
    }

    @Test
    void otherCollectorsCanBeAsked() throws IOException {
        String all = String.join(
                "\n",
                read("collectors: [{url: \"https://collector-2.example:7443\", token: wind, certificates: ca.pem}]")
                        .summary());
        assertTrue(all.contains("https://collector-2.example:7443 is asked, too, with a token"), all);
        assertTrue(!all.contains("wind"), all);
        String errors = error("collectors: [{url: collector-2}, {token: wind}]");
        assertTrue(
                errors.contains(
                        "url: \"collector-2\" is not an address: expected such as https://collector-2.example:7443"),
                errors);
        assertTrue(errors.contains("url is missing: expected its address"), errors);
    }

    @Test
    void theSchemaHasEveryMember() {
        String schema = CollectorFile.schema();
        for (String each : List.of("listen", "tls", "password", "store", "environment", "stamp", "redaction")) {
            assertTrue(schema.contains("\"" + each + "\" : {"), schema);
        }
    }
}
