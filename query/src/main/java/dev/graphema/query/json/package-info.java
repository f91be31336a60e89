/** The JSON form of questions and answers, with fixed, documented keys. */
package dev.graphema.query.json;
