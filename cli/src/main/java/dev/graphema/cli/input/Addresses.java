package dev.graphema.cli.input;

import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.EventSource;
import dev.graphema.remote.RemoteSource;
import dev.graphema.sql.source.SqlSource;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Collectors and databases by their addresses. */
final class Addresses {
    private static final String USUAL_TABLE = "events";

    private Addresses() {}

    static boolean isAddress(String input) {
        return isDatabase(input) || input.startsWith("http://") || input.startsWith("https://");
    }

    private static boolean isDatabase(String input) {
        return input.startsWith("jdbc:");
    }

    /**
     * Returns the events at an address, or at several with commas between them.
     *
     * @param table of a database; null for the usual one
     * @param shape how the rows of other programs are read
     */
    static List<EventSource> sources(String input, String table, LineShape shape) throws IOException, MisuseException {
        if (isDatabase(input)) {
            return List.of(database(input, table == null ? USUAL_TABLE : table, shape));
        }
        List<EventSource> collectors = new ArrayList<>();
        for (String address : input.split(",")) {
            collectors.add(collector(address));
        }
        return collectors;
    }

    private static EventSource database(String url, String table, LineShape shape) throws IOException, MisuseException {
        try {
            return SqlSource.of(url, System.getenv("GRAPHEMA_SQL_USER"), secret("GRAPHEMA_SQL_PASSWORD"), table)
                    .shaped(shape);
        } catch (IllegalArgumentException e) {
            throw new MisuseException("--table: " + e.getMessage());
        }
    }

    private static EventSource collector(String address) throws IOException, MisuseException {
        try {
            String certificates = System.getenv("GRAPHEMA_CERTIFICATES");
            String token = secret("GRAPHEMA_TOKEN");
            return certificates == null
                    ? RemoteSource.at(URI.create(address), token)
                    : RemoteSource.at(URI.create(address), token, Path.of(certificates));
        } catch (IllegalArgumentException e) {
            throw new MisuseException("--in " + address
                    + " is not the address of a collector: expected one such as http://127.0.0.1:7070");
        }
    }

    /**
     * Returns what a variable of the environment contains, or the file that the variable with {@code _FILE} names; null for
     * neither. A secret is in no argument, which other users of the machine could see.
     */
    private static String secret(String variable) throws IOException {
        String file = System.getenv(variable + "_FILE");
        return file == null
                ? System.getenv(variable)
                : Files.readString(Path.of(file)).strip();
    }
}
