/** What a collector reads besides HTTP: {@link dev.graphema.collector.input.SyslogPort}. */
package dev.graphema.collector.input;
