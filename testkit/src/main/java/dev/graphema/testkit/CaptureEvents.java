package dev.graphema.testkit;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.extension.ExtendWith;

/**
 * Captures the events of each test of a class. A test can have a parameter of the type {@link EventCapture}. A test fails if it
 * leaves scopes open on its thread.
 *
 * <pre>{@code
 * @CaptureEvents
 * class BookingDeskTest {
 *     @Test
 *     void aRefusedBookingIsReported(EventCapture events) {
 *         desk.confirm(tooLong);
 *         events.assertEmitted("level = warn and message = \"crossing refused\" and lane exists");
 *     }
 * }
 * }</pre>
 *
 * <p>Loggers in static fields are shared by the process, so such tests must not run concurrently with others that emit events.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ExtendWith(CaptureExtension.class)
public @interface CaptureEvents {}
