package dev.graphema.sql.source;

class PostgresqlContractTest extends SqlContract {
    @Override
    String database() {
        return "postgresql";
    }
}
