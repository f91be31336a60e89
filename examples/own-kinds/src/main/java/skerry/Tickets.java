package skerry;

import dev.graphema.redaction.Detector;
import dev.graphema.redaction.PatternDetector;
import dev.graphema.redaction.Trigger;

/** A detector: numbers of tickets, which end with a check digit. */
public final class Tickets implements Detector {
    private static final PatternDetector TICKETS =
            PatternDetector.of("ticket", "T-[0-9]{7}-[0-9]", "T-").checked(Tickets::isTicket);

    @Override
    public String name() {
        return TICKETS.name();
    }

    @Override
    public int shortest() {
        return 11;
    }

    @Override
    public Trigger trigger() {
        return TICKETS.trigger();
    }

    @Override
    public long find(String text, int from) {
        return TICKETS.find(text, from);
    }

    /** Returns whether the digits and the check digit have a multiple of ten as their weighted sum. */
    private static boolean isTicket(String number) {
        int sum = 0;
        int weight = 1;
        for (char c : number.toCharArray()) {
            if (Character.isDigit(c)) {
                sum += (c - '0') * weight;
                weight = 4 - weight;
            }
        }
        return sum % 10 == 0;
    }
}
