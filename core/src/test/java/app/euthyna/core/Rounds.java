package app.euthyna.core;

/**
 * How often a random test goes round: as often as it says, or with {@code -Dfewer=40} a fortieth of that, where each
 * mutant of {@code ./euthyna mutate} runs it.
 */
public final class Rounds {

    private static final int FEWER = Integer.getInteger("fewer", 1);

    private Rounds() {}

    public static int of(int rounds) {
        return Math.max(1, rounds / FEWER);
    }

    /** Whether so much happens that everything does. */
    public static boolean areAll() {
        return FEWER == 1;
    }
}
