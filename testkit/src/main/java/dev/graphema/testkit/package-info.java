/**
 * Events in tests: capture what the code under test says, and assert on it with the condition language. Entry points: {@link
 * dev.graphema.testkit.EventCapture}, and {@link dev.graphema.testkit.CaptureEvents} for JUnit.
 */
package dev.graphema.testkit;
