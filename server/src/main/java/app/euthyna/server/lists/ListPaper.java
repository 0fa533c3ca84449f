package app.euthyna.server.lists;

import java.util.List;

/** Sets a list on paper. */
public interface ListPaper {

    /** A column; figures stand at the right. */
    record Heading(String title, boolean isFigure) {}

    /**
     * What is set.
     *
     * @param filters the conditions that its rows meet, as sentences
     * @param rows the cells of each, as they are read
     * @param total the last row: how many there are, and what they add up to
     */
    record Sheet(
            String title, List<String> filters, List<Heading> columns, List<List<String>> rows, List<String> total) {}

    /** A file of pages with their numbers. */
    byte[] pdf(Sheet sheet);
}
