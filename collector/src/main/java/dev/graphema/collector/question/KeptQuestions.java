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
import java.time.InstantSource;
import java.util.LinkedHashMap;
import java.util.Map;

/** Questions with a name, which all readers share. Thread-safe. */
public final class KeptQuestions {
    private static final String FILE = "kept.jsonl";
    private static final String MEDIA_TYPE = "application/json";
    private static final String TYPED = "text/plain";

    private final NamedTexts kept;
    private final Access access;
    private final InstantSource clock;

    /** @param folder the folder in which they are kept, such as that of the store */
    public KeptQuestions(Path folder, Access access, InstantSource clock) {
        this.kept = new NamedTexts(folder.resolve(FILE), "question");
        this.access = access;
        this.clock = clock;
    }

    /** Answers with all of them. */
    public void list(Call call) throws Problem, IOException {
        access.require(Role.READ, call);
        call.send(200, MEDIA_TYPE, FlatJson.of(kept.all()));
    }

    /**
     * Keeps the question in the body under the parameter {@code name}. A text is a question as people type it: its window is kept as
     * typed, so that {@code --last 2h} refers to the time at which it is asked.
     */
    public void keep(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        Map<String, String> question = new LinkedHashMap<>();
        question.put(NamedTexts.NAME, NamedTexts.name(call));
        question.put(NamedTexts.BY, caller.name());
        String text = new String(call.body(), StandardCharsets.UTF_8);
        if (call.mediaType().equals(TYPED)) {
            TypedQuestions.parsed(text, TypedQuestions.zone(call), clock);
            question.put("text", text.strip());
        } else {
            question.put("question", canonical(text));
        }
        kept.keep(question, caller);
        call.send(200, MEDIA_TYPE, FlatJson.of(question));
    }

    private static String canonical(String question) throws Problem {
        try {
            return QuestionJson.of(QuestionJson.read(question));
        } catch (QuestionException e) {
            throw new Problem(400, "The question cannot be read", e.getMessage());
        }
    }

    /** Removes the question with the parameter {@code name}. */
    public void remove(Call call) throws Problem, IOException {
        kept.remove(call.parameter(NamedTexts.NAME), access.require(Role.READ, call));
        call.send(200, MEDIA_TYPE, "{\"removed\":1}");
    }
}
