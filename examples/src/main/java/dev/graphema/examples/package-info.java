/**
 * The demo: runs Skerry Line for a scripted quarter of an hour and then finds out what went wrong, with the commands that
 * anyone would use. Entry point: {@link dev.graphema.examples.DemoVerb}.
 */
package dev.graphema.examples;
