package app.euthyna.core.shared;

/** A line of a document: its number and the line's position, counted from 1. */
public record LineRef(String number, int line) implements Comparable<LineRef> {

    @Override
    public int compareTo(LineRef other) {
        var byNumber = number.compareTo(other.number);
        return byNumber != 0 ? byNumber : Integer.compare(line, other.line);
    }

    @Override
    public String toString() {
        return number + "/" + line;
    }
}
