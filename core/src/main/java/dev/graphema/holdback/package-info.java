/**
 * Holds detail in memory until it is known whether it is needed. Entry point: {@link dev.graphema.holdback.HoldBack}.
 * The package depends on events and conditions.
 */
package dev.graphema.holdback;
