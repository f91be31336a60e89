/** A runtime in JMX. */
package dev.graphema.management;
