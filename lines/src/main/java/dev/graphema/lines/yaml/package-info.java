/** YAML files with errors that name file and line. */
package dev.graphema.lines.yaml;
