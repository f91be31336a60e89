package dev.graphema.collector.ingest;

import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import java.io.IOException;

/** Receives lines: Graphema JSON, or those of any other program. They are on the disk before the answer. */
public final class LinesEndpoint implements Endpoint {
    private final Intake intake;

    public LinesEndpoint(Intake intake) {
        this.intake = intake;
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        byte[] lines = call.body();
        int count = intake.take(lines);
        call.send(200, "application/json", "{\"stored\":" + count + "}");
    }
}
