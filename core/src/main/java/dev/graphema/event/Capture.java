package dev.graphema.event;

import dev.graphema.failure.FailurePolicy;
import dev.graphema.text.Decimals;
import java.lang.reflect.Array;
import java.lang.reflect.RecordComponent;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;

/**
 * Converts any object into a snapshot of typed values. Methods of the object may do anything: if one throws an
 * exception, only this value is affected, and describes the exception.
 */
final class Capture {
    private static final BigInteger LONG_MIN = BigInteger.valueOf(Long.MIN_VALUE);
    private static final BigInteger LONG_MAX = BigInteger.valueOf(Long.MAX_VALUE);

    private final FieldRecorder to;

    /** The containers that are being captured, outermost first, to detect cycles. */
    private Deque<Object> open;

    Capture(FieldRecorder to) {
        this.to = to;
    }

    /** Adds the value; the name is null for an item of a list. */
    void value(String name, Object value) {
        int mark = to.mark();
        try {
            add(name, value);
        } catch (Throwable e) {
            to.cutBack(mark);
            FailurePolicy.contain(e);
            text(name, "(failed: " + e.getClass().getName() + ")");
        }
    }

    private void add(String name, Object value) throws ReflectiveOperationException {
        if (value == null) {
            to.add(name, Kind.NOTHING, 0, null);
        } else if (value instanceof CharSequence sequence) {
            to.text(name, sequence);
        } else if (value instanceof Character) {
            text(name, textOf(value));
        } else if (value instanceof Number number) {
            number(name, number);
        } else if (value instanceof Boolean bool) {
            to.add(name, Kind.BOOLEAN, bool ? 1 : 0, null);
        } else if (value instanceof Enum<?> constant) {
            text(name, constant.name());
        } else if (value instanceof Instant) {
            to.add(name, Kind.TIME, 0, value);
        } else if (value instanceof Duration) {
            to.add(name, Kind.DURATION, 0, value);
        } else if (value instanceof Class<?> type) {
            text(name, type.getName());
        } else if (value instanceof Optional<?> optional) {
            value(name, optional.orElse(null));
        } else if (value instanceof OptionalInt optional) {
            value(name, optional.isPresent() ? optional.getAsInt() : null);
        } else if (value instanceof OptionalLong optional) {
            value(name, optional.isPresent() ? optional.getAsLong() : null);
        } else if (value instanceof OptionalDouble optional) {
            value(name, optional.isPresent() ? optional.getAsDouble() : null);
        } else if (value instanceof Throwable throwable) {
            throwable(name, Failure.of(throwable));
        } else if (value instanceof java.nio.file.Path) {
            text(name, value.toString()); // a path is an iterable of paths
        } else {
            container(name, value);
        }
    }

    private void number(String name, Number number) {
        if (number instanceof Integer || number instanceof Long || number instanceof Short || number instanceof Byte) {
            to.add(name, Kind.INTEGER, number.longValue(), null);
        } else if (number instanceof Double) {
            to.add(name, Kind.REAL, Double.doubleToRawLongBits(number.doubleValue()), null);
        } else if (number instanceof Float) {
            to.add(name, Kind.REAL, Double.doubleToRawLongBits(Double.parseDouble(number.toString())), null);
        } else if (number.getClass() == BigDecimal.class) {
            decimal(name, (BigDecimal) number);
        } else if (number.getClass() == BigInteger.class) {
            BigInteger integer = (BigInteger) number;
            if (integer.compareTo(LONG_MIN) >= 0 && integer.compareTo(LONG_MAX) <= 0) {
                to.add(name, Kind.INTEGER, integer.longValue(), null);
            } else {
                decimal(name, new BigDecimal(integer));
            }
        } else {
            // Atomic numbers, adders and the caller's own subclasses, which could change or lie later.
            String text = textOf(number);
            if (text.length() > Decimals.MOST_DIGITS) {
                text(name, text);
                return;
            }
            try {
                number(
                        name,
                        new BigDecimal(text).stripTrailingZeros().scale() <= 0
                                ? new BigInteger(text)
                                : (Number) Double.valueOf(text));
            } catch (NumberFormatException e) {
                text(name, text);
            }
        }
    }

    /** Formatting a number with very many digits takes too long, and no JSON reader accepts it. */
    private void decimal(String name, BigDecimal number) {
        if (Decimals.hasTooManyDigits(number)) {
            text(name, "… (a number of about " + Decimals.aboutDigits(number) + " digits)");
        } else {
            to.add(name, Kind.DECIMAL, 0, number);
        }
    }

    /** Calls {@code toString} on the calling thread, and throws what it throws. */
    private static String textOf(Object value) {
        return value == null ? "null" : String.valueOf(value.toString());
    }

    private void container(String name, Object value) throws ReflectiveOperationException {
        if (value instanceof Map
                || value instanceof Iterable
                || value instanceof Record
                || value.getClass().isArray()) {
            if (isOpen(value)) {
                text(name, "… (contains itself)");
                return;
            }
            if (open == null) {
                open = new ArrayDeque<>();
            }
            open.addLast(value);
            try {
                content(name, value);
            } finally {
                open.removeLast();
            }
        } else {
            text(name, textOf(value));
        }
    }

    private void content(String name, Object value) {
        if (value instanceof Map<?, ?> map) {
            to.tree(name, Kind.GROUP, () -> {
                for (Map.Entry<?, ?> entry : map.entrySet()) {
                    if (to.isFull()) {
                        return;
                    }
                    value(Bounds.name(textOf(entry.getKey())), entry.getValue());
                }
            });
        } else if (value instanceof Iterable<?> items) {
            to.tree(name, Kind.LIST, () -> {
                for (Object item : items) {
                    if (to.isFull()) {
                        return;
                    }
                    value(null, item);
                }
            });
        } else if (value instanceof Record record) {
            to.tree(name, Kind.GROUP, () -> {
                for (RecordComponent component : record.getClass().getRecordComponents()) {
                    component(record, component);
                }
            });
        } else {
            to.tree(name, Kind.LIST, () -> {
                int length = Array.getLength(value);
                for (int i = 0; i < length && !to.isFull(); i++) {
                    value(null, Array.get(value, i));
                }
            });
        }
    }

    private void throwable(String name, Failure failure) {
        to.tree(name, Kind.GROUP, () -> {
            text("type", failure.type());
            text("message", failure.message());
            if (failure.cause() != null) {
                throwable("cause", failure.cause());
            }
        });
    }

    private void component(Record record, RecordComponent component) {
        try {
            var accessor = component.getAccessor();
            // A record nested in a class of another package is not accessible by default, though its accessor is
            // public.
            if (!accessor.trySetAccessible()) {
                text(component.getName(), "(not readable: the record's package is not open)");
                return;
            }
            value(component.getName(), accessor.invoke(record));
        } catch (ReflectiveOperationException e) {
            Throwable cause = e.getCause() == null ? e : e.getCause();
            FailurePolicy.contain(cause);
            text(component.getName(), "(failed: " + cause.getClass().getName() + ")");
        }
    }

    private boolean isOpen(Object value) {
        if (open != null) {
            for (Object container : open) {
                if (container == value) {
                    return true;
                }
            }
        }
        return false;
    }

    private void text(String name, String text) {
        if (text == null) {
            to.add(name, Kind.NOTHING, 0, null);
        } else {
            to.text(name, text);
        }
    }
}
