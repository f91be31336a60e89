package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.Fields;
import dev.graphema.text.Nearest;
import dev.graphema.text.Utf8Buffer;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A value in a {@link JsonShape}.
 *
 * @param word the kind of value
 * @param argument the argument of the word, or ""
 * @param fixed the text of a constant value; null for others and for one that is not set
 * @param places for fields, the number of decimal places of a nanosecond in the unit of durations, or {@link #AS_TEXT}
 */
record JsonValue(Word word, String argument, String fixed, int places) {
    /** Durations are texts in the form of ISO 8601. */
    static final int AS_TEXT = -1;

    /** The words and their arguments. */
    enum Word {
        /**
         * RFC 3339 in UTC; or {@code epoch-seconds}, {@code -millis}, {@code -micros}, {@code -nanos}; or in a time
         * zone.
         */
        TIME,
        /** The name; or {@code upper}, {@code number} (1 to 21, as in OpenTelemetry), {@code syslog} (7 to 2). */
        LEVEL,
        SERVICE,
        INSTANCE,
        LOGGER,
        MESSAGE,
        THREAD,
        TRACE,
        SPAN,
        PARENT,
        SEQUENCE,
        WEIGHT,
        HELD,
        ID,
        /** All fields without their own key; with {@code in} and a unit, durations are numbers. */
        FIELDS,
        /** One field by name; with {@code in} and a unit, a duration is a number. */
        FIELD,
        /** The failure as an object. */
        FAILURE,
        FAILURE_TYPE,
        FAILURE_MESSAGE,
        /** The failure as a stack trace of the JDK. */
        FAILURE_TEXT,
        FINGERPRINT,
        /** A constant text. */
        CONSTANT,
        /** A constant number. */
        NUMBER,
        /** {@code true} or {@code false}. */
        BOOLEAN,
        /** An environment variable. */
        ENVIRONMENT,
        /** A system property. */
        PROPERTY,
        /** The process id. */
        PROCESS,
        /** A value of the program. */
        VALUE;

        String text() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        boolean needsArgument() {
            return switch (this) {
                case FIELD, CONSTANT, NUMBER, BOOLEAN, ENVIRONMENT, PROPERTY, VALUE -> true;
                default -> false;
            };
        }

        boolean takesArgument() {
            return needsArgument() || this == TIME || this == LEVEL;
        }
    }

    private static final List<String> LEVEL_FORMS = List.of("upper", "number", "syslog");
    private static final Map<String, Long> EPOCH_UNITS = Map.of(
            "epoch-seconds", 1_000_000_000L, "epoch-millis", 1_000_000L, "epoch-micros", 1_000L, "epoch-nanos", 1L);

    /** The units of durations, and the number of decimal places of a nanosecond in them. */
    private static final Map<String, Integer> DURATION_UNITS =
            Map.of("seconds", 9, "millis", 6, "micros", 3, "nanos", 0);

    private static final Pattern IN_UNIT = Pattern.compile("(.*?)\\s*\\bin\\s+(\\S+)");
    private static final Pattern JSON_NUMBER =
            Pattern.compile("-?(0|[1-9][0-9]{0,99})(\\.[0-9]{1,100})?([eE][+-]?[0-9]{1,3})?");

    /**
     * Parses a value.
     *
     * @param at its position in the shape, for messages
     */
    static JsonValue parse(String at, String text) {
        String trimmed = text.trim();
        int blank = trimmed.indexOf(' ');
        String name = blank < 0 ? trimmed : trimmed.substring(0, blank);
        String argument = blank < 0 ? "" : trimmed.substring(blank + 1).trim();
        List<String> words = Arrays.stream(Word.values()).map(Word::text).toList();
        int index = words.indexOf(name.toLowerCase(Locale.ROOT));
        if (index < 0) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at
                    + ": expected one of the words " + String.join(", ", words) + Nearest.hint(name, words));
        }
        Word word = Word.values()[index];
        if (word.needsArgument() && argument.isEmpty()) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at + ": expected " + name
                    + " and " + whatFollows(word));
        }
        Matcher unit = IN_UNIT.matcher(argument);
        if ((word == Word.FIELD || word == Word.FIELDS) && unit.matches()) {
            return inUnit(at, text, word, unit.group(1), unit.group(2));
        }
        boolean isFixedWrong =
                word == Word.NUMBER && !JSON_NUMBER.matcher(argument).matches()
                        || word == Word.BOOLEAN && !argument.equals("true") && !argument.equals("false");
        if (isFixedWrong) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at + ": expected " + name
                    + " and " + whatFollows(word));
        }
        if (!word.takesArgument() && !argument.isEmpty()) {
            throw new IllegalArgumentException(
                    "the shape contains \"" + text + "\" at " + at + ": expected " + name + " alone");
        }
        if (word == Word.LEVEL && !argument.isEmpty() && !LEVEL_FORMS.contains(argument)) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at
                    + ": expected level alone or with upper, number or syslog" + Nearest.hint(argument, LEVEL_FORMS));
        }
        if (word == Word.TIME) {
            checkTime(at, text, argument);
        }
        return new JsonValue(word, argument, fixed(word, argument), AS_TEXT);
    }

    private static String whatFollows(Word word) {
        return switch (word) {
            case CONSTANT -> "a text";
            case NUMBER -> "a number such as 7 or 2.5";
            case BOOLEAN -> "true or false";
            default -> "a name";
        };
    }

    private static JsonValue inUnit(String at, String text, Word word, String field, String unit) {
        Integer places = DURATION_UNITS.get(unit);
        if (places == null || field.isEmpty() != (word == Word.FIELDS)) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at + ": expected "
                    + (word == Word.FIELD ? "field, a name" : "fields")
                    + ", and in seconds, in millis, in micros or in nanos"
                    + Nearest.hint(unit, DURATION_UNITS.keySet()));
        }
        return new JsonValue(word, field, null, places);
    }

    private static void checkTime(String at, String text, String form) {
        if (form.isEmpty() || form.equals("local") || EPOCH_UNITS.containsKey(form)) {
            return;
        }
        try {
            ZoneId.of(form);
        } catch (DateTimeException e) {
            throw new IllegalArgumentException("the shape contains \"" + text + "\" at " + at
                    + ": expected time alone or with epoch-seconds, epoch-millis, epoch-micros, epoch-nanos, local, or a"
                    + " time zone" + Nearest.hint(form, EPOCH_UNITS.keySet()));
        }
    }

    private static String fixed(Word word, String argument) {
        return switch (word) {
            case CONSTANT, NUMBER, BOOLEAN -> argument;
            case ENVIRONMENT -> System.getenv(argument);
            case PROPERTY -> System.getProperty(argument);
            default -> null;
        };
    }

    /** Writes values; for the thread of one sink. */
    static final class Writer {
        private final Rfc3339 times = new Rfc3339();
        private final JsonFields jsonFields = new JsonFields();
        private final Map<String, Function<? super Event, String>> values;
        private final Set<String> placed;

        /** @param placed the fields with their own key */
        Writer(Map<String, Function<? super Event, String>> values, Set<String> placed) {
            this.values = values;
            this.placed = placed;
        }

        /**
         * Writes the value.
         *
         * @return false if the event has none
         */
        boolean write(JsonValue value, Event event, Utf8Buffer to) {
            return switch (value.word) {
                case TIME -> time(event.epochNanos(), value.argument, to);
                case LEVEL -> event.level() != null && level(event, value.argument, to);
                case SERVICE -> text(event.service(), to);
                case INSTANCE -> text(event.instance(), to);
                case LOGGER -> text(event.logger(), to);
                case MESSAGE -> text(event.message(), to);
                case THREAD -> text(event.thread(), to);
                case TRACE -> text(event.trace(), to);
                case SPAN -> text(event.span(), to);
                case PARENT -> text(event.parent(), to);
                case SEQUENCE -> event.sequence() != 0 && number(event.sequence(), to);
                case WEIGHT -> number(event.weight(), to);
                case HELD -> bool(event.held(), to);
                case ID -> text(event.id(), to);
                case FIELDS -> fields(event.fields(), value.places, to);
                case FIELD -> jsonFields.durations(value.places).writeOne(event.fields(), value.argument, to);
                case PROCESS -> number(ProcessHandle.current().pid(), to);
                case VALUE -> text(given(value.argument, event), to);
                case CONSTANT, ENVIRONMENT, PROPERTY -> text(value.fixed, to);
                case NUMBER, BOOLEAN -> literal(value.fixed, to);
                default -> event.failure() != null && failure(value.word, event, to);
            };
        }

        /**
         * Writes the fields into the open object with these names.
         *
         * @param places see {@link JsonValue#places}
         * @return whether it is still empty
         */
        boolean fieldsInto(Event event, int places, boolean first, Set<String> names, Utf8Buffer to) {
            return jsonFields.durations(places).writeInto(event.fields(), first, placed, names, to);
        }

        private static boolean bool(boolean value, Utf8Buffer to) {
            return literal(value ? "true" : "false", to);
        }

        private static boolean literal(String value, Utf8Buffer to) {
            to.ascii(value);
            return true;
        }

        private boolean fields(Fields fields, int places, Utf8Buffer to) {
            to.ascii('{');
            boolean none = jsonFields.durations(places).writeInto(fields, true, placed, Set.of(), to);
            to.ascii('}');
            return !none;
        }

        private boolean failure(Word word, Event event, Utf8Buffer to) {
            if (word == Word.FAILURE) {
                JsonFailure.write(event.failure(), to);
                return true;
            }
            return text(
                    switch (word) {
                        case FAILURE_TYPE -> event.failure().type();
                        case FAILURE_MESSAGE -> event.failure().message();
                        case FAILURE_TEXT -> FailureText.of(event.failure());
                        default -> event.failure().fingerprint();
                    },
                    to);
        }

        private boolean time(long epochNanos, String form, Utf8Buffer to) {
            Long unit = EPOCH_UNITS.get(form);
            if (unit != null) {
                return number(Math.floorDiv(epochNanos, unit), to);
            }
            if (!form.isEmpty()) {
                ZoneId zone = form.equals("local") ? ZoneId.systemDefault() : ZoneId.of(form);
                Instant time = Instant.ofEpochSecond(0, epochNanos);
                return text(DateTimeFormatter.ISO_OFFSET_DATE_TIME.format(OffsetDateTime.ofInstant(time, zone)), to);
            }
            to.ascii('"');
            times.write(epochNanos, to);
            to.ascii('"');
            return true;
        }

        private static boolean level(Event event, String form, Utf8Buffer to) {
            return switch (form) {
                case "number" -> number(event.level().severity(), to);
                case "syslog" -> number(SyslogLines.severity(event.level()), to);
                case "upper" -> text(event.level().text().toUpperCase(Locale.ROOT), to);
                default -> text(event.level().text(), to);
            };
        }

        /** Calls code of the program; an exception is described instead of the value. */
        private String given(String name, Event event) {
            try {
                return values.get(name).apply(event);
            } catch (RuntimeException | StackOverflowError | LinkageError e) {
                return "(failed: " + e.getClass().getName() + ")";
            }
        }

        private static boolean number(long value, Utf8Buffer to) {
            to.number(value);
            return true;
        }

        private static boolean text(Object value, Utf8Buffer to) {
            if (value == null) {
                return false;
            }
            JsonText.string(value.toString(), to);
            return true;
        }
    }
}
