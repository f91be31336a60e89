package dev.graphema.management;

import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * The JMX interface of a runtime, {@code dev.graphema:type=Graphema,service=NAME,run=ID}. Every call returns current
 * values.
 */
public interface GraphemaMXBean {
    /** The name of the service; empty if it has none. */
    String getService();

    /** The name of the instance; empty if it has none. */
    String getInstance();

    /** The time of the start, in RFC 3339 format. */
    String getSince();

    /** The number of accepted events. */
    long getAccepted();

    /** The number of events after the runtime was closed. */
    long getLate();

    /** As {@link dev.graphema.Graphema#refused}. */
    long getRefused();

    /** As {@link dev.graphema.Graphema#withheld}. */
    long getWithheld();

    /** As {@link dev.graphema.Graphema#droppedBySampling}. */
    Map<String, Long> getDroppedBySampling();

    /** As {@link dev.graphema.Graphema#held}, by name of the count. */
    Map<String, Long> getHeld();

    /** The number of written events by sink. */
    Map<String, Long> getWritten();

    /** The number of lost events by sink and level. */
    Map<String, Map<String, Long>> getLost();

    /** The last error of each sink that has had one, by sink. */
    Map<String, String> getErrors();

    /** Whether all sinks work. */
    boolean isHealthy();

    /** The state of each sink, by name. */
    Map<String, SinkState> getSinks();

    /** The current settings as YAML, without secrets. */
    String getSettings();

    /** Why the last change of the settings was rejected; empty if it was not. */
    String getLastRefusal();

    /** The thresholds and detail that were set at run time and are in effect. */
    List<String> getByHand();

    /** Returns the current threshold of the logger. */
    String threshold(String logger);

    /** As {@link dev.graphema.Graphema#threshold(String, dev.graphema.event.Level, java.time.Duration)}. */
    void setThreshold(String branch, String level, long seconds);

    /** As {@link dev.graphema.Graphema#resetThreshold}. */
    boolean resetThreshold(String branch);

    /** As {@link dev.graphema.Graphema#raise}, with the target as the text of a condition. */
    void raise(String target, String level, long seconds);

    /** As {@link dev.graphema.Graphema#resetByHand}. */
    void resetByHand();

    /** As {@link dev.graphema.Graphema#reload()}. */
    void reload() throws IOException;

    /**
     * Explains how an event would be processed.
     *
     * @param fields {@code name=value} pairs separated by spaces; empty for none
     */
    String explain(String logger, String level, String fields);
}
