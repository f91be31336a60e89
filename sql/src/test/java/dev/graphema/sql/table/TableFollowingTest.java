package dev.graphema.sql.table;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.graphema.condition.Condition;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

class TableFollowingTest {
    @Test
    void rowsAreLookedForUntilTheirTransactionsHaveEnded() throws IOException {
        Statements statements = mock(Statements.class);
        when(statements.fields()).thenReturn(FieldColumns.NONE);
        when(statements.number(any(), any())).thenReturn(5L, 9L, 12L);
        when(statements.ask(any(), any())).thenReturn(mock(ReturnedRows.class));
        long[] now = {0};
        try (TableFollowing following = new TableFollowing(statements, Condition.EVERYTHING, () -> now[0])) {
            for (int i = 0; i < 3; i++) {
                following.poll(event -> {});
                now[0] += TableFollowing.LATE.toNanos() + 1;
            }
        }
        ArgumentCaptor<Sql> asked = ArgumentCaptor.forClass(Sql.class);
        verify(statements, times(3)).ask(asked.capture(), any());
        assertEquals(
                List.of(List.of(5L), List.of(5L), List.of(9L)),
                asked.getAllValues().stream().map(Sql::values).toList());
    }
}
