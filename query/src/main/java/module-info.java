/** Questions about events, their answers, and the contract of sources. */
module dev.graphema.query {
    requires transitive dev.graphema.core;
    requires com.fasterxml.jackson.core;
    requires re2j;

    exports dev.graphema.query;
    exports dev.graphema.query.answer;
    exports dev.graphema.query.json;
    exports dev.graphema.query.partial;
    exports dev.graphema.query.row;
    exports dev.graphema.query.part;
    exports dev.graphema.query.source;
    exports dev.graphema.query.typed;
}
