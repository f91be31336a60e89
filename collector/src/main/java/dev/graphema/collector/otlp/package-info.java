/** Receives log records and spans of the OpenTelemetry protocol (OTLP/HTTP 1.x), in protobuf and in JSON. */
package dev.graphema.collector.otlp;
