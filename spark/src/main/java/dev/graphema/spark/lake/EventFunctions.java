package dev.graphema.spark.lake;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.partial.EventLines;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.api.java.UDF2;
import org.apache.spark.sql.types.DataTypes;

/** Functions for statements, with which the processes of Spark examine events themselves, beside the files that they read. */
final class EventFunctions {
    /** Returns whether the event in a line matches a condition; null for a line that is none. */
    static final String MATCHES = "graphema_matches";

    /** Returns the text of the value that the event in a line has of a name; null for none. */
    static final String VALUE = "graphema_value";

    private EventFunctions() {}

    static void register(SparkSession session) {
        session.udf().register(MATCHES, new Matches(), DataTypes.BooleanType);
        session.udf().register(VALUE, new Value(), DataTypes.StringType);
    }

    /** What is the same for all events of a question is made once in each task. */
    private abstract static class OfEvents<R> implements UDF2<String, String, R> {
        private static final long serialVersionUID = 1;

        private transient EventLines lines;
        private transient String known;

        @Override
        public final R call(String about, String line) {
            if (lines == null) {
                lines = WrittenEvents.reader();
            }
            if (!about.equals(known)) {
                prepare(about);
                known = about;
            }
            return result(lines.read(line, 0));
        }

        abstract void prepare(String about);

        /** @param event null if the line is none */
        abstract R result(Event event);
    }

    private static final class Matches extends OfEvents<Boolean> {
        private static final long serialVersionUID = 1;

        private transient Condition condition;

        @Override
        void prepare(String about) {
            condition = Condition.parse(about);
        }

        @Override
        Boolean result(Event event) {
            return event == null ? null : (Boolean) condition.matches(event);
        }
    }

    private static final class Value extends OfEvents<String> {
        private static final long serialVersionUID = 1;

        private transient Name name;

        @Override
        void prepare(String about) {
            name = Name.of("fields." + about);
        }

        @Override
        String result(Event event) {
            return event == null ? null : CountTable.text(name.value(event));
        }
    }
}
