package skerry;

import dev.graphema.CapturedContext;
import dev.graphema.Context;
import java.util.concurrent.Flow;

/**
 * A subscriber whose methods run in the context of the code that created it, on any thread. The same few lines
 * serve any library of reactive streams.
 */
final class Carried<T> implements Flow.Subscriber<T> {
    private final Flow.Subscriber<T> to;
    private final CapturedContext context = Context.capture();

    Carried(Flow.Subscriber<T> to) {
        this.to = to;
    }

    @Override
    public void onSubscribe(Flow.Subscription subscription) {
        context.runnable(() -> to.onSubscribe(subscription)).run();
    }

    @Override
    public void onNext(T item) {
        context.runnable(() -> to.onNext(item)).run();
    }

    @Override
    public void onError(Throwable problem) {
        context.runnable(() -> to.onError(problem)).run();
    }

    @Override
    public void onComplete() {
        context.runnable(to::onComplete).run();
    }
}
