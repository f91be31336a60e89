package dev.graphema.collector.question;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.text.FlatJson;
import dev.graphema.query.json.QuestionException;
import dev.graphema.query.json.QuestionJson;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** Questions with a name, which all readers share. Whoever keeps one, or an administrator, may replace and remove it. Thread-safe. */
public final class KeptQuestions {
    private static final String FILE = "kept.jsonl";
    private static final String MEDIA_TYPE = "application/json";
    private static final Pattern NAME = Pattern.compile("[\\p{L}\\p{N}][\\p{L}\\p{N} ._-]{0,99}");
    private static final int MOST = 1_000;

    private final Path file;
    private final Access access;

    /** @param store the folder of the store, in which they are kept */
    public KeptQuestions(Path store, Access access) {
        this.file = store.resolve(FILE);
        this.access = access;
    }

    /** Answers with all of them. */
    public synchronized void list(Call call) throws Problem, IOException {
        access.require(Role.READ, call);
        call.send(200, MEDIA_TYPE, FlatJson.of(FlatJson.readLines(file)));
    }

    /** Keeps the question in the body under the parameter {@code name}. */
    public void keep(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        String name = call.parameter("name");
        if (name == null || !NAME.matcher(name).matches()) {
            throw new Problem(
                    400,
                    "The name is not valid",
                    "name is \"" + name
                            + "\": expected up to 100 letters, digits, blanks, dots, hyphens and underscores");
        }
        String question = new String(call.body(), StandardCharsets.UTF_8);
        try {
            question = QuestionJson.of(QuestionJson.read(question));
        } catch (QuestionException e) {
            throw new Problem(400, "The question cannot be read", e.getMessage());
        }
        Map<String, String> kept = new LinkedHashMap<>();
        kept.put("name", name);
        kept.put("by", caller.name());
        kept.put("question", question);
        synchronized (this) {
            List<Map<String, String>> all = without(name, caller);
            if (all.size() >= MOST) {
                throw new Problem(409, "Too many kept questions", MOST + " questions are kept: remove one first");
            }
            all.add(kept);
            FlatJson.writeLines(file, all);
        }
        call.send(200, MEDIA_TYPE, FlatJson.of(kept));
    }

    /** Removes the question with the parameter {@code name}. */
    public void remove(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        String name = call.parameter("name");
        synchronized (this) {
            int before = FlatJson.readLines(file).size();
            List<Map<String, String>> all = without(name, caller);
            if (all.size() == before) {
                throw new Problem(
                        404,
                        "There is no such question",
                        "name is \"" + name + "\": expected one that GET /kept lists");
            }
            FlatJson.writeLines(file, all);
        }
        call.send(200, MEDIA_TYPE, "{\"removed\":1}");
    }

    private List<Map<String, String>> without(String name, Caller caller) throws Problem, IOException {
        List<Map<String, String>> left = new ArrayList<>();
        for (Map<String, String> each : FlatJson.readLines(file)) {
            boolean isOther = caller.token() != null
                    && !caller.name().equals(each.get("by"))
                    && !caller.token().role().includes(Role.ADMINISTER);
            if (each.get("name").equals(name) && isOther) {
                throw new Problem(
                        403,
                        "Not allowed",
                        "the question \"" + name + "\" is kept by someone else: choose another name");
            }
            if (!each.get("name").equals(name)) {
                left.add(each);
            }
        }
        return left;
    }
}
