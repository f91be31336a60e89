/** Answers questions over HTTP. */
package dev.graphema.collector.question;
