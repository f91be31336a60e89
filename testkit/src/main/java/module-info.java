/** Events in tests. */
module dev.graphema.testkit {
    requires transitive dev.graphema.core;
    requires transitive org.junit.jupiter.api;

    exports dev.graphema.testkit;
}
