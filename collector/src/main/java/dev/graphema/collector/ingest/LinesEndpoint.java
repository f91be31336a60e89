package dev.graphema.collector.ingest;

import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Endpoint;
import dev.graphema.collector.http.Problem;
import java.io.IOException;

/** Receives lines: Graphema JSON, or those of any other program. They are on the disk before the answer. */
public final class LinesEndpoint implements Endpoint {
    private final Senders senders;
    private final Intake intake;

    public LinesEndpoint(Senders senders, Intake intake) {
        this.senders = senders;
        this.intake = intake;
    }

    @Override
    public void answer(Call call) throws Problem, IOException {
        Origin origin = senders.require(call);
        int count = intake.take(call.body(), origin);
        call.send(200, "application/json", "{\"stored\":" + count + "}");
    }
}
