package dev.graphema.condition;

import dev.graphema.event.Subject;

/** What a condition was compiled into. */
interface Matcher {
    boolean matches(Subject subject);
}
