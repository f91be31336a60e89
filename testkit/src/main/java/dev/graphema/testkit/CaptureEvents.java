package dev.graphema.testkit;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.extension.ExtendWith;

/**
 * Captures the events of each test of a class. A test that has a parameter of the type {@link EventCapture} gets it; scopes
 * that a test leaves open on its thread fail it.
 *
 * <pre>{@code
 * @CaptureEvents
 * class BookingDeskTest {
 *     @Test
 *     void aRefusedBookingIsTold(EventCapture events) {
 *         desk.confirm(tooLong);
 *         events.assertEmitted("level = warn and message = \"crossing refused\" and lane exists");
 *     }
 * }
 * }</pre>
 *
 * <p>Loggers in static fields serve the whole process, so such tests must not run at the same time as others that log.
 */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@ExtendWith(CaptureExtension.class)
public @interface CaptureEvents {}
