package dev.graphema.collector.question;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.text.FlatJson;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Texts with a name, which all readers share, in a file. Whoever keeps one, or an administrator, may replace and remove it. Thread-safe.
 */
final class NamedTexts {
    /** The member with the name. */
    static final String NAME = "name";

    /** The member with who keeps it. */
    static final String BY = "by";

    private static final Pattern VALID = Pattern.compile("[\\p{L}\\p{N}][\\p{L}\\p{N} ._-]{0,99}");
    private static final int MOST = 1_000;

    private final Path file;
    private final String what;

    /** @param what is kept: {@code question} */
    NamedTexts(Path file, String what) {
        this.file = file;
        this.what = what;
    }

    /** Returns the name in the parameters of a request. */
    static String name(Call call) throws Problem {
        String name = call.parameter(NAME);
        if (name == null || !VALID.matcher(name).matches()) {
            throw new Problem(
                    400,
                    "The name is not valid",
                    "name is \"" + name
                            + "\": expected up to 100 letters, digits, blanks, dots, hyphens and underscores");
        }
        return name;
    }

    synchronized List<Map<String, String>> all() throws IOException {
        return FlatJson.readLines(file);
    }

    /** Adds one, or replaces that with its name. */
    synchronized void keep(Map<String, String> text, Caller caller) throws Problem, IOException {
        List<Map<String, String>> all = without(text.get(NAME), caller);
        if (all.size() >= MOST) {
            throw new Problem(409, "Too many kept " + what + "s", MOST + " are kept: remove one first");
        }
        all.add(text);
        FlatJson.writeLines(file, all);
    }

    synchronized void remove(String name, Caller caller) throws Problem, IOException {
        int before = all().size();
        List<Map<String, String>> left = without(name, caller);
        if (left.size() == before) {
            throw new Problem(404, "There is no such " + what, "name is \"" + name + "\": expected one that is listed");
        }
        FlatJson.writeLines(file, left);
    }

    private List<Map<String, String>> without(String name, Caller caller) throws Problem, IOException {
        List<Map<String, String>> left = new ArrayList<>();
        for (Map<String, String> each : all()) {
            boolean isOther = caller.token() != null
                    && !caller.name().equals(each.get(BY))
                    && !caller.token().role().includes(Role.ADMINISTER);
            if (each.get(NAME).equals(name) && isOther) {
                throw new Problem(
                        403,
                        "Not allowed",
                        "the " + what + " \"" + name + "\" is kept by someone else: choose another name");
            }
            if (!each.get(NAME).equals(name)) {
                left.add(each);
            }
        }
        return left;
    }
}
