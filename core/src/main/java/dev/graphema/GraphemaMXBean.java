package dev.graphema;

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

    /** How many events each sink has written, by its name. */
    Map<String, Long> getWritten();

    /** How many events each sink did not get or could not pass on, by its name and by level. */
    Map<String, Map<String, Long>> getLost();

    /** What went wrong last with each sink for which something did, by its name. */
    Map<String, String> getTroubles();
}
