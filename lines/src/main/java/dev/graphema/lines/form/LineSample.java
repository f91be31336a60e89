package dev.graphema.lines.form;

import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.LineForm;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.NameUse;
import dev.graphema.lines.shape.ShapeInference;
import java.util.AbstractMap.SimpleImmutableEntry;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** The first lines of a log, from which its shape is inferred. For one thread. */
public final class LineSample {
    /** The most lines of a sample. */
    public static final int MOST_LINES = 1_000;

    private final ShapeInference inference;
    private final Map<LineForm, Long> lines = new EnumMap<>(LineForm.class);
    private final List<Map.Entry<String, Object>> values = new ArrayList<>();
    private final JsonLine objects;
    private final TextLine texts;

    /** @param shape what the user defines */
    public LineSample(LineShape shape) {
        inference = new ShapeInference(shape.times());
        LineValues observer = new LineValues() {
            @Override
            public void begin() {
                values.clear();
            }

            @Override
            public void take(String name, Object value) {
                values.add(new SimpleImmutableEntry<>(name, value));
            }

            @Override
            public void rest(String text) {
                // it does not help to infer the shape
            }

            @Override
            public void damaged(LineDamage damage) {
                // a damaged line has names, too
            }
        };
        objects = new JsonLine(shape, observer);
        texts = new TextLine(shape, observer, null);
    }

    /** Adds a line that is a JSON object. */
    public void object(byte[] bytes, int from, int to) {
        try {
            objects.read(bytes, from, to, 0, false);
            add(LineForm.JSON);
            inference.structuredLine();
        } catch (UnreadableLineException e) {
            return; // it does not help to infer the shape
        }
    }

    /** Adds a line of text. */
    public void text(byte[] bytes, int from, int to) {
        if (texts.isContinuation(bytes, from, to)) {
            return;
        }
        texts.read(bytes, from, to, 0);
        add(texts.form());
        boolean isTimed = texts.form() == LineForm.TIMED_TEXT;
        if (isTimed || texts.form() == LineForm.TEXT) {
            inference.textLine(isTimed, texts.hasLevelBehindTime());
        } else {
            inference.structuredLine();
        }
    }

    private void add(LineForm form) {
        lines.merge(form, 1L, Long::sum);
        values.forEach(each -> inference.value(each.getKey(), each.getValue(), form.hasNames()));
    }

    /** Returns the number of lines of each form; those that continue another one do not count. */
    public Map<LineForm, Long> lines() {
        return lines;
    }

    /** Returns the names under which values in the lines are read with a shape. */
    public List<NameUse> names(LineShape shape) {
        return inference.names(shape);
    }

    /** Returns the shape. */
    public InferredShape shape() {
        return inference.shape();
    }
}
