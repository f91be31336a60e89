package dev.graphema.collector.question;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.permission.Caller;
import dev.graphema.collector.yaml.Given;
import dev.graphema.collector.yaml.Member;
import dev.graphema.collector.yaml.Member.Kind;
import dev.graphema.lines.yaml.YamlFile;
import dev.graphema.query.typed.MistypedException;
import dev.graphema.query.typed.TypedQuestion;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Boards, which all readers share: several questions, each shown as a number, by time, as a map, or by its most frequent values. A board
 * is written as YAML:
 *
 * <pre>
 * parts:
 *   - {title: Errors, question: level >= error --last 1h, show: count}
 *   - {question: level >= error --last 1h, show: values, of: failure.type}
 * </pre>
 *
 * Thread-safe.
 */
public final class Boards {
    private static final String FILE = "boards.jsonl";
    private static final String YAML = "yaml";
    private static final String MEDIA_TYPE = "application/json";
    private static final JsonFactory JSON = new JsonFactory();
    private static final int MOST_PARTS = 24;
    private static final List<String> FORMS = List.of("count", "steps", "map", "values");
    private static final List<Member> MEMBERS = List.of(Member.groups(
            "parts",
            "what the board shows",
            Member.of("title", Kind.TEXT, "a heading; the question by default"),
            Member.required("question", Kind.TEXT, "a question such as level >= error --last 1h"),
            Member.required("show", Kind.TEXT, "count, steps, map or values"),
            Member.of("of", Kind.TEXT, "the field whose values are shown, for values and map")));

    private final NamedTexts kept;
    private final Access access;
    private final InstantSource clock;

    private record Part(String title, String question, String show, String of) {}

    /** @param folder the folder in which they are kept, such as that of the store */
    public Boards(Path folder, Access access, InstantSource clock) {
        this.kept = new NamedTexts(folder.resolve(FILE), "board");
        this.access = access;
        this.clock = clock;
    }

    /** Answers with all of them: name, YAML, and parts. */
    public void list(Call call) throws Problem, IOException {
        access.require(Role.READ, call);
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartArray();
            for (Map<String, String> each : kept.all()) {
                json.writeStartObject();
                for (Map.Entry<String, String> member : each.entrySet()) {
                    json.writeStringField(member.getKey(), member.getValue());
                }
                json.writeArrayFieldStart("parts");
                for (Part part : parts(each.get(NamedTexts.NAME), each.get(YAML))) {
                    write(part, json);
                }
                json.writeEndArray();
                json.writeEndObject();
            }
            json.writeEndArray();
        }
        call.send(200, MEDIA_TYPE, text.toString());
    }

    private static void write(Part part, JsonGenerator json) throws IOException {
        json.writeStartObject();
        json.writeStringField("title", part.title());
        json.writeStringField("question", part.question());
        json.writeStringField("show", part.show());
        if (part.of() != null) {
            json.writeStringField("of", part.of());
        }
        json.writeEndObject();
    }

    /** Keeps the YAML in the body under the parameter {@code name}. */
    public void keep(Call call) throws Problem, IOException {
        Caller caller = access.require(Role.READ, call);
        String name = NamedTexts.name(call);
        String yaml = new String(call.body(), StandardCharsets.UTF_8);
        parts(name, yaml);
        Map<String, String> board = new LinkedHashMap<>();
        board.put(NamedTexts.NAME, name);
        board.put(NamedTexts.BY, caller.name());
        board.put(YAML, yaml);
        kept.keep(board, caller);
        call.send(200, MEDIA_TYPE, "{\"kept\":1}");
    }

    /** Removes the board with the parameter {@code name}. */
    public void remove(Call call) throws Problem, IOException {
        kept.remove(call.parameter(NamedTexts.NAME), access.require(Role.READ, call));
        call.send(200, MEDIA_TYPE, "{\"removed\":1}");
    }

    private List<Part> parts(String name, String yaml) throws Problem {
        List<String> problems = new ArrayList<>();
        List<Part> parts = new ArrayList<>();
        try {
            Given board = new Given(YamlFile.of(name, yaml), null, MEMBERS, UnaryOperator.identity(), problems);
            for (Given each : board.groups("parts")) {
                parts.add(part(each));
            }
        } catch (IOException e) {
            problems.add(e.getMessage());
        }
        if (problems.isEmpty() && (parts.isEmpty() || parts.size() > MOST_PARTS)) {
            problems.add(name + ": there are " + parts.size() + " parts: expected 1 to " + MOST_PARTS);
        }
        if (!problems.isEmpty()) {
            throw new Problem(400, "The board cannot be read", String.join("\n", problems));
        }
        return parts;
    }

    private Part part(Given part) {
        String question = part.text("question");
        String show = part.text("show");
        if (show != null && !FORMS.contains(show)) {
            part.problem("show", "\"" + show + "\" is no form: expected " + String.join(", ", FORMS));
        }
        if ("values".equals(show) && !part.has("of")) {
            part.problem("show", "values needs a field: expected of: NAME");
        }
        if (question != null) {
            try {
                TypedQuestion.parse(question, ZoneOffset.UTC, clock.instant());
            } catch (MistypedException e) {
                part.problem("question", "at column " + e.column() + ": " + e.getMessage());
            }
        }
        return new Part(part.has("title") ? part.text("title") : question, question, show, part.text("of"));
    }
}
