/** Events of the Java platform as events of Graphema. */
package dev.graphema.platform;
