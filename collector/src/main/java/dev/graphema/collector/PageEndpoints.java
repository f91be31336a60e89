package dev.graphema.collector;

import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.page.PageFiles;
import dev.graphema.collector.permission.Access;
import dev.graphema.collector.question.Boards;
import dev.graphema.collector.question.KeptQuestions;
import dev.graphema.collector.question.TypedQuestions;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;

/** The page, and what only people need: typed questions, kept ones, and boards. */
final class PageEndpoints {
    private final PageFiles files;
    private final TypedQuestions typed;
    private final KeptQuestions kept;
    private final Boards boards;

    /** @param folder where questions and boards are kept */
    PageEndpoints(Access access, Path folder) throws IOException {
        this.files = new PageFiles();
        this.typed = new TypedQuestions(access, InstantSource.system());
        this.kept = new KeptQuestions(folder, access, InstantSource.system());
        this.boards = new Boards(folder, access, InstantSource.system());
    }

    void addTo(Map<String, Endpoint> all) {
        all.put("GET /", files::index);
        all.put("GET " + PageFiles.FOLDER, files);
        all.put("POST /questions/reading", typed::read);
        all.put("GET /kept", kept::list);
        all.put("POST /kept", kept::keep);
        all.put("DELETE /kept", kept::remove);
        all.put("GET /boards", boards::list);
        all.put("POST /boards", boards::keep);
        all.put("DELETE /boards", boards::remove);
    }
}
