package app.euthyna.server.sheet;

import app.euthyna.server.masterdata.MasterData;

/** Patterns for {@code like} with the escape character {@code !}. */
final class Likes {

    private Likes() {
    }

    /** Texts that contain what was typed, whatever its case and accents. */
    static String anywhere(String typed) {
        return "%" + escaped(MasterData.searchKey(typed)) + "%";
    }

    /** Texts that begin like this one. */
    static String from(String start) {
        return escaped(start) + "%";
    }

    private static String escaped(String text) {
        return text.replace("!", "!!").replace("%", "!%").replace("_", "!_");
    }
}
