package dev.graphema;

import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * What a running Graphema tells through JMX, under {@code dev.graphema:type=Graphema,service=NAME,run=ID}. Every call takes
 * its figures anew.
 */
public interface GraphemaMXBean {
    /** The name of the service; empty when it has none. */
    String getService();

    /** Which of its instances this is; empty when it has no name. */
    String getInstance();

    /** When it was started, as RFC 3339. */
    String getSince();

    /** How many events were accepted. */
    long getAccepted();

    /** How many events came after the end. */
    long getLate();

    /** As {@link Graphema#refused}. */
    long getRefused();

    /** As {@link Graphema#withheld}. */
    long getWithheld();

    /** As {@link Graphema#thinned}. */
    Map<String, Long> getThinned();

    /** As {@link Graphema#held}, by what it counts. */
    Map<String, Long> getHeld();

    /** How many events each sink has written, by its name. */
    Map<String, Long> getWritten();

    /** How many events each sink did not get or could not pass on, by its name and by level. */
    Map<String, Map<String, Long>> getLost();

    /** What went wrong last with each sink for which something did, by its name. */
    Map<String, String> getTroubles();

    /** The settings in force, as YAML; secrets are not told. */
    String getSettings();

    /** Why the last change of the settings was refused; empty when it was not. */
    String getLastRefusal();

    /** What was set or raised by hand and is still in force. */
    List<String> getByHand();

    /** The threshold of that logger now. */
    String threshold(String logger);

    /** As {@link Graphema#threshold(String, dev.graphema.event.Level, java.time.Duration)}. */
    void setThreshold(String branch, String level, long seconds);

    /** As {@link Graphema#resetThreshold}. */
    boolean resetThreshold(String branch);

    /** As {@link Graphema#raise}, with the target as a condition's text. */
    void raise(String target, String level, long seconds);

    /** As {@link Graphema#resetByHand}. */
    void resetByHand();

    /** As {@link Graphema#reload()}. */
    void reload() throws IOException;

    /**
     * What would become of an event, and why.
     *
     * @param fields {@code name=value} pairs with blanks between them; empty for none
     */
    String explain(String logger, String level, String fields);
}
