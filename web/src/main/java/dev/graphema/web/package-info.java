/**
 * HTTP as Graphema sees it: an event for each request that is served and each call that is made, and the correlation that
 * crosses between processes with them. Entry points: {@link dev.graphema.web.ServletRequestFilter}, {@link
 * dev.graphema.web.RequestFilter} and {@link dev.graphema.web.CallEvents}.
 */
package dev.graphema.web;
