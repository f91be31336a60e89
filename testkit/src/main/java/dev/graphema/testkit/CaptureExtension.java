package dev.graphema.testkit;

import dev.graphema.Context;
import java.util.List;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;

/** The implementation of {@link CaptureEvents}. */
public final class CaptureExtension implements BeforeEachCallback, AfterEachCallback, ParameterResolver {
    private static final ExtensionContext.Namespace NAMESPACE =
            ExtensionContext.Namespace.create(CaptureExtension.class);

    @Override
    public void beforeEach(ExtensionContext test) {
        capture(test);
    }

    @Override
    public void afterEach(ExtensionContext test) {
        capture(test).close();
        List<String> open = Context.openScopes();
        if (!open.isEmpty()) {
            throw new AssertionError(
                    "the test left scopes open: " + String.join(", ", open) + "; open them in a try with resources");
        }
    }

    @Override
    public boolean supportsParameter(ParameterContext parameter, ExtensionContext test) {
        return parameter.getParameter().getType() == EventCapture.class;
    }

    @Override
    public EventCapture resolveParameter(ParameterContext parameter, ExtensionContext test) {
        return capture(test);
    }

    private static EventCapture capture(ExtensionContext test) {
        return test.getStore(NAMESPACE)
                .getOrComputeIfAbsent("capture", missing -> EventCapture.start(), EventCapture.class);
    }
}
