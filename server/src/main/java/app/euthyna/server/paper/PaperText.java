package app.euthyna.server.paper;

import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;

/**
 * What stands on one paper, part after part, before it is set. The templates that set it ({@code src/main/jte}) are
 * compiled against it, so it is public; all text of anybody's is taken for text there, never for markup.
 */
public final class PaperText {

    /** A part of a paper, below its head. */
    public sealed interface Part permits Facts, Barcode, Paragraph, Heading, Table, Sums {}

    /** A name and what it stands for. */
    public record Fact(String name, String value) {}

    public record Facts(List<Fact> facts) implements Part {}

    /** A picture as a data URI. */
    public record Barcode(String picture) implements Part {}

    public record Paragraph(String text) implements Part {}

    public record Heading(String text) implements Part {}

    /** A column of a table; figures stand at the right. */
    public record Column(String title, boolean isFigure) {

        /** How its cells are set; null for as everything else. */
        public @Nullable String style() {
            return isFigure ? "figure" : null;
        }

        static Column text(String title) {
            return new Column(title, false);
        }

        static Column figure(String title) {
            return new Column(title, true);
        }
    }

    public record Table(List<Column> columns, List<List<String>> rows) implements Part {}

    /** Figures under one another and what they come to. */
    public record Sums(List<Fact> rows, Fact last) implements Part {}

    /**
     * Who writes to whom about what.
     *
     * @param foot stands below every page
     * @param marks that the paper is a copy, or speaks of something that is not settled
     */
    public record Head(String foot, String sender, String addressee, String title, List<String> marks) {}

    private final Head head;
    private final List<Part> parts = new ArrayList<>();

    PaperText(Head head) {
        this.head = head;
    }

    public Head head() {
        return head;
    }

    public List<Part> parts() {
        return List.copyOf(parts);
    }

    /** Facts; those that say nothing are left out. */
    PaperText facts(Fact... facts) {
        return with(new Facts(
                Arrays.stream(facts).filter(fact -> !fact.value().isBlank()).toList()));
    }

    PaperText barcode(String picture) {
        return with(new Barcode(picture));
    }

    /** A paragraph, unless it says nothing. */
    PaperText paragraph(String text) {
        return text.isBlank() ? this : with(new Paragraph(text));
    }

    PaperText heading(String text) {
        return with(new Heading(text));
    }

    <T> PaperText table(List<Column> columns, Collection<T> of, Function<T, List<String>> row) {
        return with(new Table(columns, of.stream().map(row).toList()));
    }

    PaperText sums(List<Fact> rows, Fact last) {
        return with(new Sums(rows, last));
    }

    private PaperText with(Part part) {
        parts.add(part);
        return this;
    }
}
