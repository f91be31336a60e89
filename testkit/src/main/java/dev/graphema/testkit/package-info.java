/**
 * Captures events in tests and asserts on them with the condition language. Entry points: {@link
 * dev.graphema.testkit.EventCapture}, and {@link dev.graphema.testkit.CaptureEvents} for JUnit.
 */
package dev.graphema.testkit;
