/**
 * Events and correlation of HTTP: an event for each request and each call. Entry points: {@link
 * dev.graphema.web.ServletRequestFilter}, {@link dev.graphema.web.RequestFilter} and {@link
 * dev.graphema.web.CallEvents}.
 */
package dev.graphema.web;
