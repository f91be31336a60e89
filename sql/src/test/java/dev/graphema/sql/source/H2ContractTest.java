package dev.graphema.sql.source;

class H2ContractTest extends SqlContract {
    @Override
    String database() {
        return "h2";
    }
}
