package dev.graphema.option;

import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.List;
import java.util.ServiceConfigurationError;
import org.junit.jupiter.api.Test;

class SelectionTest {
    /** A type with a service that cannot be created. */
    public interface Part extends Named {}

    public static final class Broken implements Part {
        public Broken() {
            throw new IllegalStateException("made up");
        }

        @Override
        public String name() {
            return "broken";
        }
    }

    @Test
    void aServiceThatCannotBeCreatedDoesNotAffectBuiltInKinds() {
        Part mooring = () -> "mooring";
        Selection<Part> selection = Selection.of(Part.class, List.of(mooring));
        assertSame(mooring, selection.named("Mooring"));
        assertThrows(ServiceConfigurationError.class, selection::names);
        assertThrows(ServiceConfigurationError.class, () -> selection.named("anchor"));
        assertSame(mooring, selection.named("mooring"));
    }
}
