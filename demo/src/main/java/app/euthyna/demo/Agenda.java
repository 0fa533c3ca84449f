package app.euthyna.demo;

import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;

/** What is put off to its day, and what all stories draw from: chance, and references of their own. */
final class Agenda {

    private final Random random;
    private final LocalDate today;
    private final Map<LocalDate, Deque<Runnable>> deeds = new HashMap<>();
    private int reference = 1000;

    Agenda(Random random, LocalDate today) {
        this.random = random;
        this.today = today;
    }

    Random random() {
        return random;
    }

    LocalDate today() {
        return today;
    }

    String reference() {
        return "SK-" + ++reference;
    }

    /** How many references were given. */
    int given() {
        return reference;
    }

    /** Puts something off to its day; what lies after today does not happen. */
    void on(LocalDate day, Runnable what) {
        if (!day.isAfter(today)) {
            deeds.computeIfAbsent(day, d -> new ArrayDeque<>()).add(what);
        }
    }

    /** What is to be done on a day; more may come while it is done. */
    Deque<Runnable> of(LocalDate day) {
        return deeds.getOrDefault(day, new ArrayDeque<>());
    }

    void done(LocalDate day) {
        deeds.remove(day);
    }
}
