package dev.graphema.examples;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import net.thisptr.jackson.jq.BuiltinFunctionLoader;
import net.thisptr.jackson.jq.JsonQuery;
import net.thisptr.jackson.jq.Scope;
import net.thisptr.jackson.jq.Versions;

/** Asks lines of JSON by a library that knows nothing of Graphema. */
final class IndependentQuery {
    private IndependentQuery() {}

    /** What the query, in the language of jq, gives for an array of all lines. */
    static List<JsonNode> of(String query, List<String> lines) throws IOException {
        ObjectMapper json = new ObjectMapper();
        ArrayNode events = json.createArrayNode();
        for (String line : lines) {
            events.add(json.readTree(line));
        }
        Scope scope = Scope.newEmptyScope();
        BuiltinFunctionLoader.getInstance().loadFunctions(Versions.JQ_1_6, scope);
        List<JsonNode> results = new ArrayList<>();
        JsonQuery.compile(query, Versions.JQ_1_6).apply(scope, events, results::add);
        return results;
    }
}
