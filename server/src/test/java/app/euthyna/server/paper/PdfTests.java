package app.euthyna.server.paper;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.paper.PaperText.Column;
import app.euthyna.server.paper.PaperText.Fact;
import java.io.StringReader;
import java.util.List;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.xml.sax.InputSource;

/** What people type is text on a paper, whatever it looks like. */
class PdfTests {

    private static final String ODD = "<b>Bold</b> & \"quoted\" \u0007bell \uD83D alone \u2028 ${x} @if(y)";

    private static PaperText paper(String text) {
        return new PaperText(new PaperText.Head("foot", "sender", text, "Title " + text, List.of("Copy 1")))
                .facts(new Fact("Fact", text), new Fact("Nothing", " "))
                .paragraph(text)
                .heading(text)
                .table(
                        List.of(Column.text(text), Column.figure("Figure")),
                        List.of(text),
                        cell -> List.of(cell, "1.00"))
                .sums(List.of(new Fact("Net", "1.00")), new Fact("Gross", "1.19"));
    }

    private static String textOf(byte[] pdf) throws Exception {
        try (var document = Loader.loadPDF(pdf)) {
            return new PDFTextStripper().getText(document);
        }
    }

    @Test
    void setsMarkupAsText() throws Exception {
        var text = textOf(new Pdf().of("Title", List.of(paper(ODD))));
        assertThat(text).contains("<b>Bold</b> & \"quoted\"", "${x} @if(y)", "Fact", "1.00", "Gross", "Copy 1");
        assertThat(text).doesNotContain("Nothing", "\u0007");
    }

    @Test
    void beginsALineWhereTheTextDoes() throws Exception {
        assertThat(textOf(new Pdf().of("Title", List.of(paper("first\nsecond"))))
                        .lines())
                .contains("first", "second");
    }

    @Test
    void beginsEachPaperOnItsOwnPage() throws Exception {
        try (var document = Loader.loadPDF(new Pdf().of("Both", List.of(paper("one"), paper("two"))))) {
            assertThat(document.getNumberOfPages()).isEqualTo(2);
            assertThat(document.getDocumentInformation().getTitle()).isEqualTo("Both");
        }
    }

    /** XML 1.0, section 2.2: the characters that a document may have; read by the parser of the JDK. */
    @Test
    void writesNoCharacterThatXmlDoesNotKnow() throws Exception {
        var xml = DocumentBuilderFactory.newInstance().newDocumentBuilder();
        for (int c = 0; c <= 0x10FFFF; c += isNearABound(c) ? 1 : 997) {
            var cleaned = WellFormed.cleaned(c > 0xFFFF ? Character.toString(c) : String.valueOf((char) c));
            var text = xml.parse(new InputSource(new StringReader("<a b=\"" + escaped(cleaned) + "\"/>")));
            assertThat(text.getDocumentElement().getAttribute("b")).as("%x", c).hasSize(cleaned.length());
        }
    }

    private static boolean isNearABound(int c) {
        return c < 0x3000 || (c > 0xD700 && c < 0x10010);
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
    }
}
