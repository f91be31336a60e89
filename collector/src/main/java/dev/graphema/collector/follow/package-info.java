/** Follows files across rotation and restart, without duplicates or gaps. */
package dev.graphema.collector.follow;
