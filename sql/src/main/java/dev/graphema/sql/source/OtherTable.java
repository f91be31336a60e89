package dev.graphema.sql.source;

import dev.graphema.condition.Accepted;
import dev.graphema.condition.Name;
import dev.graphema.condition.Range;
import dev.graphema.condition.Resolved;
import dev.graphema.condition.Split;
import dev.graphema.condition.Split.Precision;
import dev.graphema.condition.TextRule;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.Meaning;
import dev.graphema.query.Window;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.sql.table.Sql;
import dev.graphema.sql.table.SqlConditions;
import dev.graphema.sql.table.SqlFold;
import dev.graphema.sql.table.TableRows;
import dev.graphema.text.Times;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A table of another program. The database leaves out rows that cannot match, by the time and by fields that are columns; everything is
 * decided for each event. Immutable.
 */
final class OtherTable implements SqlFold {
    private final SqlReader reader;
    private final List<OtherColumn> columns;
    private final LineShape shape;

    OtherTable(SqlReader reader, List<OtherColumn> columns, LineShape shape) {
        this.reader = reader;
        this.columns = columns;
        this.shape = shape;
    }

    /**
     * Returns the part that has all rows.
     *
     * @param isWhole whether rows are left out by no condition, so that they have the same numbers whenever they are read
     * @throws IOException if the rows are to be in order, and no column has their time
     */
    Part part(Scan scan, boolean isWhole) throws IOException {
        OtherColumn time = time();
        if (scan.isInOrder() && time == null) {
            throw new IOException(reader
                    + ": it is not known which column has the time: name it with --map time=NAME, expected one of "
                    + columns.stream()
                            .filter(OtherColumn::isTime)
                            .map(OtherColumn::name)
                            .collect(Collectors.joining(", ")));
        }
        Split split = Split.of(scan.where().resolved(), this::precision);
        Sql where = isWhole
                ? Sql.TRUE
                : Sql.all(List.of(
                        time == null ? Sql.TRUE : during(time, scan.during()),
                        split.exact().fold(this),
                        split.approximate().fold(this)));
        Sql asked = Sql.of("select * from " + reader.table() + " where ").then(where);
        return new Whole(
                time != null && (isWhole || scan.isInOrder()) ? asked.then(" order by " + time.quoted()) : asked, scan);
    }

    /** Returns the column with the time, if it can only be one; null if it is not known. */
    private OtherColumn time() {
        List<OtherColumn> meant = columns.stream().filter(this::isTime).toList();
        List<OtherColumn> given = meant.stream()
                .filter(column -> shape.mapping().containsKey(column.name()))
                .toList();
        List<OtherColumn> chosen = given.isEmpty() ? meant : given;
        return chosen.size() == 1 && chosen.get(0).isTime() ? chosen.get(0) : null;
    }

    private boolean isTime(OtherColumn column) {
        Meaning meaning = shape.meaning(column.name());
        return meaning != null && meaning.attribute() == LineAttribute.TIME;
    }

    /** Returns the condition for times in a window, and for rows without a time. */
    private static Sql during(OtherColumn time, Window window) {
        List<Sql> parts = new ArrayList<>();
        if (window.from() != Long.MIN_VALUE) {
            parts.add(Sql.of(time.quoted() + " >= ?", time.moment(second(window.from(), 0))));
        }
        if (window.to() != Long.MAX_VALUE) {
            parts.add(Sql.of(time.quoted() + " < ?", time.moment(second(window.to(), 1))));
        }
        return parts.isEmpty() ? Sql.TRUE : Sql.any(List.of(Sql.of(time.quoted() + " is null"), Sql.all(parts)));
    }

    /** Returns a whole second, so that no rounding of the database matters. */
    private static OffsetDateTime second(long epochNanos, long more) {
        return OffsetDateTime.ofInstant(
                Times.instant(epochNanos).truncatedTo(ChronoUnit.SECONDS).plusSeconds(more), ZoneOffset.UTC);
    }

    /** Returns the column of a field, whose name has no other meaning; null if there is none. */
    private OtherColumn column(Name name) {
        return columns.stream()
                .filter(column -> name.attribute() == null && column.name().equals(name.field()))
                .filter(column -> shape.meaning(column.name()) == null
                        || shape.meaning(column.name()).isField())
                .findFirst()
                .orElse(null);
    }

    private Precision precision(Resolved leaf) {
        if (!(leaf instanceof Resolved.HasValue value)) {
            return Precision.NONE;
        }
        OtherColumn column = column(value.name());
        Accepted accepted = value.accepted();
        boolean isDecided = column != null
                && switch (column.kind()) {
                    case TEXT -> SqlConditions.precision(accepted.texts()) != Precision.NONE;
                    case NUMBER -> accepted.numbers() != null && accepted.numeral() == null;
                    case BOOLEAN -> accepted.bool() != null;
                    default -> false;
                };
        return isDecided ? Precision.APPROXIMATE : Precision.NONE;
    }

    @Override
    public Sql present(Name name) {
        throw new IllegalStateException("it is not decided");
    }

    @Override
    public Sql text(TextRule rule) {
        throw new IllegalStateException("it is not decided");
    }

    @Override
    public Sql value(Name name, Accepted accepted) {
        OtherColumn column = column(name);
        return switch (column.kind()) {
            case TEXT -> SqlConditions.text(column.quoted(), accepted.texts());
            case NUMBER -> numbers(column.quoted(), accepted.numbers());
            default -> Sql.of(column.quoted() + " = ?", accepted.bool());
        };
    }

    private static Sql numbers(String column, Range<BigDecimal> range) {
        return Sql.all(Stream.of(
                        Sql.of(column + " is not null"),
                        range.low() == null ? Sql.TRUE : Sql.of(column + " >= ?", range.low()),
                        range.high() == null ? Sql.TRUE : Sql.of(column + " <= ?", range.high()))
                .toList());
    }

    /** All rows. */
    private final class Whole implements Part {
        private final Sql asked;
        private final Scan scan;

        Whole(Sql asked, Scan scan) {
            this.asked = asked;
            this.scan = scan;
        }

        @Override
        public Rows open(CoverageBuilder coverage) throws IOException {
            SqlReader.Answer answer = reader.ask(asked, coverage);
            OtherReading reading = new OtherReading(reader, answer, columns, shape.asking(names()));
            return new TableRows(reader, answer, reading, event -> true, scan.projection(), coverage, () -> {});
        }

        private Set<String> names() {
            return Stream.concat(scan.where().names().stream(), scan.projection().listed().stream())
                    .filter(name -> name.attribute() == null)
                    .map(Name::field)
                    .collect(Collectors.toSet());
        }

        @Override
        public String explain(Partial<?> partial) {
            return asked.toString();
        }

        @Override
        public String name() {
            return reader.toString();
        }
    }
}
