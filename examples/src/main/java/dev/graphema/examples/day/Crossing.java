package dev.graphema.examples.day;

import static dev.graphema.examples.day.Script.MILLI;

import dev.graphema.event.Level;
import java.util.List;
import skerry.booking.BankTimeoutException;
import skerry.deck.LaneTimeoutException;

/** The events of one passenger's booking in all services. */
final class Crossing {
    private static final String DESK = "skerry.booking.BookingDesk";
    private static final String LANES = "skerry.deck.Lanes";
    private static final String SERVICE = "skerry.service.Service";
    private static final int TOO_LONG_MILLIS = 250;

    private final Day day;
    private final Script script;
    private final String reference;
    private final String vehicle;
    private final long start;
    private final DayLog deck;

    Crossing(Day day, Script script, String reference, String vehicle, long start, DayLog deck) {
        this.day = day;
        this.script = script;
        this.reference = reference;
        this.vehicle = vehicle;
        this.start = start;
        this.deck = deck;
    }

    /**
     * Emits all events of the crossing.
     *
     * @param waitMillis how long the deck waits for a lane
     * @param planted whether the passenger types what should not be in a log
     */
    void emit(int waitMillis, boolean planted) {
        Span request = Span.root(
                day.booking(), script, start, f -> f.put("booking", reference).put("sailing", "SK-204"));
        int passengers = vehicle.equals("coach") ? script.number(20, 50) : script.number(1, 5);
        long at = start + script.millis(1, 3);
        request.add(at, Level.INFO, DESK, "crossing asked for", f -> {
            f.put("vehicle", vehicle).put("passengers", passengers);
            if (planted) {
                f.put("remark", "charge 4111 1111 1111 1111, answer to ada@mail.example")
                        .put("link", "https://fares.example/p?token=k4v9s2x7q1");
            }
        });
        boolean laneFound = waitMillis < TOO_LONG_MILLIS;
        long laneAsked = at + script.millis(1, 3);
        if (!laneFound) {
            request.addHeld(at + MILLI / 2, DESK, "asking for a lane", f -> f.put("length_m", length()));
        }
        boarding(request, laneAsked);
        at = lane(request, laneAsked, waitMillis) + script.millis(1, 2);
        if (!laneFound) {
            refuse(request, at, 503, "the deck is busy");
            return;
        }
        double fare = vehicle.equals("car") ? 48.5 : 212.0;
        long fareStart = at;
        Span work = request.part(day.booking(), fareStart);
        at += script.millis(1, 4);
        work.end(
                at,
                Level.INFO,
                DESK,
                "work out fare",
                null,
                f -> f.put("fare_table", "2026-04").put("amount", fare));
        boolean slow = Day.bankIsSlow(at);
        boolean tooSlow = slow && script.chance(0.6);
        at = charge(
                request,
                at,
                fare,
                tooSlow ? 5_000 : slow ? script.number(1_500, 4_500) : script.number(30, 90),
                tooSlow);
        if (tooSlow) {
            refuse(request, at + MILLI, 503, "the bank does not answer");
            return;
        }
        long confirmed = at + MILLI;
        request.add(confirmed, Level.INFO, DESK, "crossing confirmed", f -> f.put("fare", fare));
        Span notice = request.part(day.notices(), confirmed);
        notice.end(
                confirmed + script.millis(3, 9),
                Level.INFO,
                "skerry.notices.Mailer",
                "notice sent",
                null,
                f -> f.put("channel", "mail").put("template", "confirmation"));
        end(request, confirmed + script.millis(1, 3), 201, Level.INFO);
    }

    private double length() {
        return vehicle.equals("coach") ? 12.0 : vehicle.equals("lorry") ? 9.0 : 4.5;
    }

    private void boarding(Span request, long at) {
        Span call = request.part(day.booking(), at);
        Span served = call.part(day.anyGate(), at + MILLI);
        long answered = at + script.millis(3, 6);
        served.end(
                answered - MILLI,
                Level.INFO,
                SERVICE,
                "request",
                null,
                f -> f.put("method", "GET").put("path", "/boarding/SK-204").put("status", 200));
        call.end(
                answered,
                Level.INFO,
                SERVICE,
                "call",
                null,
                f -> f.put("method", "GET").put("path", "/boarding/SK-204").put("status", 200));
    }

    /** @return when the answer is there */
    private long lane(Span request, long at, int waitMillis) {
        boolean found = waitMillis < TOO_LONG_MILLIS;
        String release = Day.release(deck, at);
        int status = found ? 201 : 503;
        Level level = found ? Level.INFO : Level.ERROR;
        List<String> lanes = vehicle.equals("coach") ? List.of("A1", "A2") : List.of("B3");
        Span call = request.part(day.booking(), at);
        Span served = call.part(deck, at + MILLI);
        Span reserve = served.part(deck, at + 2 * MILLI);
        long took = at + 2 * MILLI + script.millis(1, 3);
        if (!found) {
            reserve.addHeld(
                    took, LANES, "lane taken", f -> f.put("lane", lanes.get(0)).put("lock_wait_ms", 0));
        }
        long waited = took + waitMillis * MILLI + script.millis(1, 3);
        LaneTimeoutException failure = null;
        if (!found) {
            failure = new LaneTimeoutException(lanes.get(1), TOO_LONG_MILLIS);
            failure.setStackTrace(new StackTraceElement[] {
                frame("skerry.deck.Lanes", "take", "Lanes.java", 63),
                frame("skerry.deck.Lanes", "reserve", "Lanes.java", 42),
                frame("skerry.deck.DeckService", "reserve", "DeckService.java", 28)
            });
            reserve.add(
                    waited,
                    Level.WARN,
                    LANES,
                    "lane not free",
                    f -> f.put("lane", lanes.get(1))
                            .put("lock_wait_ms", waitMillis)
                            .put("release", release));
        }
        reserve.end(
                waited + MILLI / 2,
                level,
                LANES,
                "reserve lanes",
                failure,
                f -> f.put("vehicle", vehicle)
                        .put("length_m", length())
                        .put("lanes", lanes)
                        .put("lock_wait_ms", waitMillis)
                        .put("release", release));
        served.end(
                waited + MILLI,
                level,
                SERVICE,
                "request",
                null,
                f -> f.put("method", "POST").put("path", "/lanes").put("status", status));
        call.end(
                waited + 2 * MILLI,
                level,
                SERVICE,
                "call",
                null,
                f -> f.put("method", "POST").put("path", "/lanes").put("status", status));
        return waited + 2 * MILLI;
    }

    /** @return when the answer is there, or is waited for no longer */
    private long charge(Span request, long at, double fare, int millis, boolean tooSlow) {
        Span call = request.part(day.booking(), at);
        Span served = call.part(day.bank(), at + MILLI);
        long answered = at + millis * MILLI;
        served.end(
                tooSlow ? answered + script.millis(200, 2_000) : answered - MILLI,
                Level.INFO,
                "bank.Charges",
                "request",
                null,
                f -> f.put("method", "POST")
                        .put("path", "/charges")
                        .put("status", 200)
                        .put("amount", fare));
        BankTimeoutException failure = null;
        if (tooSlow) {
            failure = new BankTimeoutException(millis / 1_000);
            failure.setStackTrace(new StackTraceElement[] {
                frame("skerry.booking.Peers", "charge", "Peers.java", 51),
                frame(DESK, "confirm", "BookingDesk.java", 44)
            });
        }
        call.end(answered, tooSlow ? Level.ERROR : Level.INFO, SERVICE, "call", failure, f -> {
            f.put("method", "POST").put("path", "/charges");
            if (!tooSlow) {
                f.put("status", 200);
            }
        });
        return answered;
    }

    private void refuse(Span request, long at, int status, String reason) {
        request.add(at, Level.WARN, "skerry.booking.BookingService", "crossing refused", f -> f.put("reason", reason));
        end(request, at + MILLI, status, Level.ERROR);
    }

    private static void end(Span request, long at, int status, Level level) {
        request.end(
                at,
                level,
                SERVICE,
                "request",
                null,
                f -> f.put("method", "POST")
                        .put("path", "/sailings/SK-204/bookings")
                        .put("status", status));
    }

    private static StackTraceElement frame(String type, String method, String file, int line) {
        return new StackTraceElement(type, method, file, line);
    }
}
