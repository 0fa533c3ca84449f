package app.euthyna.server.paper;

import gg.jte.output.StringOutput;

/** Takes what a template writes; a character that XML 1.0 (section 2.2) does not know becomes a space. */
final class WellFormed extends StringOutput {

    @Override
    public void writeContent(String value) {
        super.writeContent(cleaned(value));
    }

    @Override
    public void writeContent(String value, int beginIndex, int endIndex) {
        super.writeContent(cleaned(value.substring(beginIndex, endIndex)));
    }

    static String cleaned(String text) {
        return text.codePoints().allMatch(WellFormed::isCharacter)
                ? text
                : text.codePoints()
                        .map(c -> isCharacter(c) ? c : ' ')
                        .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                        .toString();
    }

    /** A half of a character without its other half counts as none: as a code point it is a surrogate. */
    private static boolean isCharacter(int c) {
        return c == '\t'
                || c == '\n'
                || c == '\r'
                || (c >= ' ' && c <= 0xD7FF)
                || (c >= 0xE000 && c <= 0xFFFD)
                || c >= 0x10000;
    }
}
