/**
 * What a collector reads besides HTTP: {@link dev.graphema.collector.input.SyslogPort}, {@link
 * dev.graphema.collector.input.FollowedPath} and {@link dev.graphema.collector.input.Topic}.
 */
package dev.graphema.collector.input;
