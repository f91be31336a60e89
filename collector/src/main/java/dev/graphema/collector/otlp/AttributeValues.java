package dev.graphema.collector.otlp;

import io.opentelemetry.proto.common.v1.AnyValue;
import io.opentelemetry.proto.common.v1.KeyValue;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The values of attributes as values of fields. */
final class AttributeValues {
    /** Values within values are bounded, because each level needs stack. */
    private static final int DEEPEST = 50;

    private AttributeValues() {}

    /** Returns attributes by their names, in their order. */
    static Map<String, Object> of(List<KeyValue> attributes) {
        return of(attributes, 0);
    }

    private static Map<String, Object> of(List<KeyValue> attributes, int depth) {
        Map<String, Object> values = new LinkedHashMap<>();
        for (KeyValue each : attributes) {
            values.put(each.getKey(), of(each.getValue(), depth));
        }
        return values;
    }

    /** Returns a value; null for an empty one. */
    static Object of(AnyValue value) {
        return of(value, 0);
    }

    private static Object of(AnyValue value, int depth) {
        if (depth > DEEPEST) {
            return "…";
        }
        return switch (value.getValueCase()) {
            case STRING_VALUE -> value.getStringValue();
            case BOOL_VALUE -> value.getBoolValue();
            case INT_VALUE -> value.getIntValue();
            case DOUBLE_VALUE -> value.getDoubleValue();
            case ARRAY_VALUE -> {
                List<Object> list = new ArrayList<>();
                value.getArrayValue().getValuesList().forEach(each -> list.add(of(each, depth + 1)));
                yield list;
            }
            case KVLIST_VALUE -> of(value.getKvlistValue().getValuesList(), depth + 1);
            case BYTES_VALUE ->
                Base64.getEncoder().encodeToString(value.getBytesValue().toByteArray());
            default -> null;
        };
    }
}
