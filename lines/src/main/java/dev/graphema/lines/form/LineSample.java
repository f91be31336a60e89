package dev.graphema.lines.form;

import dev.graphema.lines.shape.InferredShape;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.lines.shape.ShapeInference;

/** The first lines of a log, from which its shape is inferred. For one thread. */
public final class LineSample {
    /** The most lines of a sample. */
    public static final int MOST_LINES = 1_000;

    private final ShapeInference inference;
    private final JsonLine objects;
    private final TextLine texts;

    /** @param shape what the user defines */
    public LineSample(LineShape shape) {
        inference = new ShapeInference(shape.times());
        LineValues observer = new LineValues() {
            @Override
            public void take(String name, Object value) {
                inference.value(name, value);
            }

            @Override
            public void damaged(LineDamage damage) {
                // a damaged line has names, too
            }
        };
        objects = new JsonLine(shape, observer);
        texts = new TextLine(shape, observer);
    }

    /** Adds a line that is a JSON object. */
    public void object(byte[] bytes, int from, int to) {
        try {
            objects.read(bytes, from, to, 0, false);
            inference.structuredLine();
        } catch (UnreadableLineException e) {
            return; // it says nothing about the shape
        }
    }

    /** Adds a line of text. */
    public void text(byte[] bytes, int from, int to) {
        if (texts.isContinuation(bytes, from, to)) {
            return;
        }
        texts.read(bytes, from, to, 0);
        if (texts.isText()) {
            inference.textLine(texts.isTimed(), texts.hasLevelBehindTime());
        } else {
            inference.structuredLine();
        }
    }

    /** Returns the shape. */
    public InferredShape shape() {
        return inference.shape();
    }
}
