package skerry;

import dev.graphema.Context;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import java.io.IOException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Flow;
import java.util.concurrent.SubmissionPublisher;

/** A stream of vehicles, whose events have the context of the code that subscribed. */
public final class Boarding {
    private static final Logger log = Logger.of(Boarding.class);

    public static void main(String[] arguments) throws IOException, InterruptedException {
        CountDownLatch end = new CountDownLatch(1);
        try (Graphema graphema = Graphema.start();
                SubmissionPublisher<String> vehicles = new SubmissionPublisher<>()) {
            try (Scope scope = Context.open(f -> f.put("sailing", "SK-204"))) {
                vehicles.subscribe(new Carried<>(new Deck(end)));
            }
            vehicles.submit("coach");
            vehicles.submit("lorry");
            vehicles.close();
            end.await();
        }
    }

    /** Takes one vehicle after the other. */
    private static final class Deck implements Flow.Subscriber<String> {
        private final CountDownLatch end;
        private Flow.Subscription subscription;

        Deck(CountDownLatch end) {
            this.end = end;
        }

        @Override
        public void onSubscribe(Flow.Subscription subscription) {
            this.subscription = subscription;
            subscription.request(1);
        }

        @Override
        public void onNext(String vehicle) {
            log.info("vehicle boarded", f -> f.put("vehicle", vehicle));
            subscription.request(1);
        }

        @Override
        public void onError(Throwable problem) {
            log.error("boarding stopped", problem);
            end.countDown();
        }

        @Override
        public void onComplete() {
            log.info("boarding complete");
            end.countDown();
        }
    }
}
