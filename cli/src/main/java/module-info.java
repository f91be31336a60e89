/** The command graphema. */
module dev.graphema.cli {
    requires transitive dev.graphema.lines;
    requires dev.graphema.segments;
    requires dev.graphema.remote;
    requires dev.graphema.collector;
    requires dev.graphema.delivery;
    requires dev.graphema.sql;
    requires com.fasterxml.jackson.core;
    requires com.samskivert.jmustache;
    requires org.apache.commons.cli;
    requires org.jline.terminal;

    exports dev.graphema.cli;
    exports dev.graphema.cli.arguments;
    exports dev.graphema.cli.output;
    exports dev.graphema.cli.verb;

    uses dev.graphema.cli.verb.Verb;
}
