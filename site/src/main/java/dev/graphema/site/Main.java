package dev.graphema.site;

import java.io.IOException;
import java.nio.file.Path;

/** Builds the site: {@code Main ROOT TARGET}. */
public final class Main {
    private Main() {}

    /** @param arguments the root of the project, and the folder of the site */
    public static void main(String[] arguments) throws IOException {
        new Site(Path.of(arguments[0]).normalize(), Path.of(arguments[1])).build();
    }
}
