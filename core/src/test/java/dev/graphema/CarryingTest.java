package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.graphema.event.Event;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Named;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class CarryingTest {
    private final TestRuntime runtime = TestRuntime.start();
    private final Logger log = runtime.logger("skerry");
    private final ExecutorService pool = Executors.newSingleThreadExecutor();

    @AfterEach
    void end() {
        pool.shutdownNow();
        runtime.close();
    }

    /** A way of getting work done on another thread. */
    private interface Way {
        void run(ExecutorService pool, Runnable work) throws Exception;
    }

    static Stream<Named<Way>> ways() {
        return Stream.of(
                Named.of("executor", (pool, work) -> {
                    Executor executor = Context.carry((Executor) pool);
                    CompletableFuture.runAsync(work, executor).get();
                }),
                Named.of("execute", (pool, work) -> {
                    CompletableFuture<Void> done = new CompletableFuture<>();
                    Context.carry(pool).execute(() -> {
                        work.run();
                        done.complete(null);
                    });
                    done.get();
                }),
                Named.of(
                        "submit runnable",
                        (pool, work) -> Context.carry(pool).submit(work).get()),
                Named.of(
                        "submit with result",
                        (pool, work) -> Context.carry(pool).submit(work, 1).get()),
                Named.of(
                        "submit callable",
                        (pool, work) ->
                                Context.carry(pool).submit(callable(work)).get()),
                Named.of("invokeAll", (pool, work) -> Context.carry(pool).invokeAll(List.of(callable(work)))),
                Named.of(
                        "invokeAll with time",
                        (pool, work) -> Context.carry(pool).invokeAll(List.of(callable(work)), 9, TimeUnit.SECONDS)),
                Named.of("invokeAny", (pool, work) -> Context.carry(pool).invokeAny(List.of(callable(work)))),
                Named.of(
                        "invokeAny with time",
                        (pool, work) -> Context.carry(pool).invokeAny(List.of(callable(work)), 9, TimeUnit.SECONDS)),
                Named.of(
                        "future",
                        (pool, work) -> CompletableFuture.supplyAsync(() -> 1, Context.carry(pool))
                                .thenRunAsync(work, Context.carry(pool))
                                .get()),
                Named.of("schedule", (pool, work) -> {
                    ScheduledExecutorService scheduler = Executors.newScheduledThreadPool(1);
                    try {
                        ScheduledExecutorService carrying = Context.carry(scheduler);
                        carrying.schedule(work, 0, TimeUnit.SECONDS).get();
                    } finally {
                        scheduler.shutdown();
                    }
                }),
                Named.of("schedule callable", (pool, work) -> {
                    ScheduledExecutorService scheduler = Executors.newScheduledThreadPool(1);
                    try {
                        ScheduledExecutorService carrying = Context.carry(scheduler);
                        carrying.schedule(callable(work), 0, TimeUnit.SECONDS).get();
                    } finally {
                        scheduler.shutdown();
                    }
                }),
                Named.of("thread factory", (pool, work) -> {
                    ThreadFactory factory = Context.carryInto(Executors.defaultThreadFactory());
                    Thread thread = factory.newThread(work);
                    thread.start();
                    thread.join();
                }),
                Named.of(
                        "captured runnable",
                        (pool, work) ->
                                pool.submit(Context.capture().runnable(work)).get()),
                Named.of(
                        "captured supplier",
                        (pool, work) -> CompletableFuture.supplyAsync(
                                        Context.capture().supplier(() -> {
                                            work.run();
                                            return 1;
                                        }),
                                        pool)
                                .get()),
                Named.of("captured functions", (pool, work) -> {
                    CapturedContext context = Context.capture();
                    CompletableFuture.supplyAsync(() -> 1, pool)
                            .thenApplyAsync(
                                    context.function(x -> {
                                        work.run();
                                        return x;
                                    }),
                                    pool)
                            .get();
                }));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void contextAndTraceGoAlongAndThePoolKeepsNothing(Way way) throws Exception {
        try (Scope correlation = Correlation.begin();
                Scope scope = Context.open(f -> f.put("booking", "B0047113"))) {
            way.run(pool, () -> log.info("elsewhere"));
            assertEquals("{booking=B0047113}", runtime.single().fields().toString());
            assertEquals(Correlation.current().trace(), runtime.single().trace());
        }
        pool.submit(() -> log.info("after")).get();

        assertEquals("{}", runtime.events().get(1).fields().toString());
        assertEquals(null, runtime.events().get(1).trace());
    }

    @Test
    void callbacksWithTwoValuesAreCarriedToo() {
        List<String> seen = new ArrayList<>();
        CapturedContext context;
        try (Scope scope = Context.open(f -> f.put("booking", 1))) {
            context = Context.capture();
        }
        context.consumer(x -> seen.add(x + "" + Context.openScopes())).accept("a");
        context.biConsumer((x, y) -> seen.add(x + "" + y + Context.openScopes()))
                .accept("b", 1);
        seen.add(context.biFunction((x, y) -> x + "" + y + Context.openScopes()).apply("c", 2));

        assertEquals(List.of("a[carried context]", "b1[carried context]", "c2[carried context]"), seen);
        assertEquals(List.of(), Context.openScopes());
    }

    @Test
    void repeatedTasksAreInTheContextInWhichTheyWereScheduled() throws Exception {
        ScheduledExecutorService scheduler = Executors.newScheduledThreadPool(1);
        ConcurrentLinkedQueue<Object> traces = new ConcurrentLinkedQueue<>();
        Future<?> fixedRate;
        Future<?> fixedDelay;
        try (Scope correlation = Correlation.begin()) {
            traces.add(Correlation.current().trace());
            Runnable note = () -> traces.add(Correlation.current().trace());
            fixedRate = Context.carry(scheduler).scheduleAtFixedRate(note, 0, 1, TimeUnit.MILLISECONDS);
            fixedDelay = Context.carry(scheduler).scheduleWithFixedDelay(note, 0, 1, TimeUnit.MILLISECONDS);
        }
        while (traces.size() < 20) {
            Thread.onSpinWait();
        }
        fixedRate.cancel(true);
        fixedDelay.cancel(true);
        scheduler.shutdown();

        assertEquals(1, traces.stream().distinct().count());
    }

    @Test
    void aScheduledTaskThatFailsIsLogged() {
        ScheduledExecutorService scheduler = Executors.newScheduledThreadPool(1);
        try (TestRuntime shared = TestRuntime.shared();
                Scope scope = Context.open(f -> f.put("sailing", "SK-204"))) {
            Future<?> periodic = Context.carry(scheduler)
                    .scheduleAtFixedRate(
                            () -> {
                                throw new IllegalStateException("no lane");
                            },
                            0,
                            1,
                            TimeUnit.MILLISECONDS);
            assertThrows(ExecutionException.class, periodic::get);

            Event event = shared.single();
            assertEquals("scheduled task failed", event.message());
            assertEquals("java.lang.IllegalStateException", event.failure().type());
            assertEquals("SK-204", event.fields().get("sailing"));
        } finally {
            scheduler.shutdownNow();
        }
    }

    @Test
    void anEventOfTheCommonPoolWithoutContextIsReportedOnce() throws Exception {
        try (TestRuntime shared = TestRuntime.shared();
                Scope scope = Context.open(f -> f.put("booking", "B7"))) {
            for (int i = 0; i < 3; i++) {
                CountDownLatch done = new CountDownLatch(1);
                ForkJoinPool.commonPool().execute(() -> {
                    Logger.named("skerry").info("quoted");
                    done.countDown();
                });
                done.await();
            }
            List<Event> reports = shared.events().stream()
                    .filter(event -> event.logger().equals("dev.graphema"))
                    .toList();
            assertEquals(1, reports.size(), reports.toString());
            assertEquals(
                    "event without context in the common pool", reports.get(0).message());
            assertEquals("skerry", reports.get(0).fields().get("what"));
        }
    }

    @Test
    void scopesThatATaskLeavesOpenEndWithItAndAreReported() throws Exception {
        try (TestRuntime shared = TestRuntime.shared()) {
            ExecutorService carrying = Context.carry(pool);
            // Reports of one kind become ever rarer in a process, so one of many is waited for.
            while (shared.events().stream().noneMatch(event -> event.message().equals("scope never closed"))) {
                carrying.submit(() -> Context.open(f -> f.put("left", "open"))).get();
                assertEquals(List.of(), pool.submit(Context::openScopes).get());
            }
            assertEquals("context of [left]", shared.single().fields().get("what"));
        }
    }

    @Test
    void whatIsCarriedHidesWhatTheOtherThreadIsIn() throws Exception {
        CapturedContext empty = Context.capture();
        try (Scope scope = Context.open(f -> f.put("own", 1))) {
            try (Scope carried = empty.open()) {
                log.info("hidden");
            }
            log.info("back");
        }

        assertEquals("{}", runtime.events().get(0).fields().toString());
        assertEquals("{own=1}", runtime.events().get(1).fields().toString());
    }

    @Test
    void virtualThreadsCarryToo() throws Exception {
        Object builder;
        try {
            builder = Thread.class.getMethod("ofVirtual").invoke(null);
        } catch (NoSuchMethodException e) {
            assumeTrue(false, "this Java has no virtual threads");
            return;
        }
        Class<?> type = Class.forName("java.lang.Thread$Builder");
        ThreadFactory factory = (ThreadFactory) type.getMethod("factory").invoke(builder);
        try (Scope correlation = Correlation.begin();
                Scope scope = Context.open(f -> f.put("booking", "B0047113"))) {
            Thread thread = Context.carryInto(factory).newThread(() -> log.info("virtual"));
            thread.start();
            thread.join();
            assertEquals(Correlation.current().trace(), runtime.single().trace());
        }

        assertEquals("B0047113", runtime.single().fields().get("booking"));
    }

    @ParameterizedTest
    @ValueSource(longs = {31, 32, 33, 34})
    void anySequenceOfHopsAndOpensEndsWithTheContextItBeganWith(long seed) throws Exception {
        Random random = new Random(seed);
        try (Scope scope = Context.open(f -> f.put("outermost", 0))) {
            for (int i = 0; i < 50; i++) {
                hop(random, 4);
                assertEquals(List.of("context of [outermost]"), Context.openScopes(), "seed " + seed);
                assertEquals(List.of(), pool.submit(Context::openScopes).get(), "seed " + seed);
            }
        }
        assertSame(Correlation.NONE, Correlation.current());
    }

    private void hop(Random random, int depth) throws Exception {
        if (depth == 0) {
            return;
        }
        String name = "n" + random.nextInt(5);
        switch (random.nextInt(4)) {
            case 0 -> {
                try (Scope scope = Context.open(f -> f.put(name, 1))) {
                    hop(random, depth - 1);
                }
            }
            case 1 -> {
                try (Scope scope = Correlation.begin()) {
                    hop(random, depth - 1);
                }
            }
            case 2 -> {
                ExecutorService other = Executors.newSingleThreadExecutor();
                try {
                    Context.carry(other)
                            .submit(() -> {
                                hop(random, depth - 1);
                                return null;
                            })
                            .get();
                } finally {
                    other.shutdown();
                }
            }
            default ->
                Context.carry(pool)
                        .submit(() -> Context.open(f -> f.put(name, "left open")))
                        .get();
        }
    }

    private static Callable<Object> callable(Runnable work) {
        return () -> {
            work.run();
            return null;
        };
    }
}
