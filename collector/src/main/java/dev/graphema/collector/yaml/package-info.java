/**
 * YAML with known members: {@link dev.graphema.collector.yaml.Given} is what a file has, {@link dev.graphema.collector.yaml.Member} what
 * is expected. Knows nothing of the settings.
 */
package dev.graphema.collector.yaml;
