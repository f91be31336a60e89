/** Stack traces as languages print them: Java, JavaScript, C#, Python, Go. */
package dev.graphema.lines.stack;
