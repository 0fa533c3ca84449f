package app.euthyna.server.paper;

import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.util.XRLog;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;

/** Makes PDF of XHTML, with the typeface embedded. Nothing outside the page is ever fetched. */
@Component
class Pdf {

    private static final String STYLE = """
        @page { size: A4; margin: 18mm 16mm 22mm 18mm; @bottom-left { content: element(foot); } @bottom-right { content: counter(page) " / " counter(pages);
            font-family: Next, NextExt; font-size: 8pt; } }
        body { font-family: Next, NextExt; font-size: 9.5pt; color: #20262b; line-height: 1.35; }
        .paper { page-break-after: always; } .paper:last-child { page-break-after: auto; }
        h1 { font-size: 15pt; margin: 6mm 0 2mm 0; font-weight: bold; } h2 { font-size: 10.5pt; margin: 5mm 0 1mm 0; }
        .house { font-size: 8pt; color: #55534c; border-bottom: 0.4pt solid #c9bfa9; padding-bottom: 1.5mm; }
        .barcode { display: block; height: 14mm; margin: 4mm 0 2mm; }
        .mark { font-size: 10pt; font-weight: bold; border: 1pt solid #96283a; color: #96283a; padding: 1mm 3mm; display: inline-block; margin-top: 3mm; }
        .to { margin: 8mm 0 6mm 0; } .facts td { padding: 0.3mm 6mm 0.3mm 0; border: none; }
        table.lines { width: 100%; border-collapse: collapse; margin-top: 3mm; -fs-table-paginate: paginate; }
        th { text-align: left; font-weight: bold; border-bottom: 0.6pt solid #20262b; padding: 1mm 1.5mm; font-size: 8.5pt; }
        td { padding: 0.9mm 1.5mm; vertical-align: top; border-bottom: 0.3pt solid #e2dbcb; } tr { page-break-inside: avoid; }
        .figure { text-align: right; white-space: nowrap; } .small { font-size: 8pt; color: #55534c; }
        table.sums { margin-left: 55%; width: 45%; margin-top: 3mm; border-collapse: collapse; } table.sums tr.last td { font-weight: bold; border-top: 0.6pt solid #20262b; }
        .foot { position: running(foot); font-size: 7.5pt; color: #55534c; }
        """;

    /** One file of all papers, in the sequence given. */
    byte[] of(String title, Iterable<String> papers) {
        var page = new Html()
                .raw("<html lang=\"en\"><head><meta charset=\"UTF-8\"/><title>")
                .text(title)
                .raw("</title><style>")
                .raw(STYLE)
                .raw("</style></head><body>");
        papers.forEach(paper -> page.raw("<div class=\"paper\">").raw(paper).raw("</div>"));
        page.raw("</body></html>");
        XRLog.setLoggingEnabled(false);
        var out = new ByteArrayOutputStream();
        var builder = new PdfRendererBuilder()
                .withHtmlContent(page.toString(), null)
                .withProducer("Euthyna")
                .toStream(out);
        // nothing is fetched; pictures of ours stand in the page itself
        builder.useUriResolver((base, uri) -> uri.startsWith("data:image/png;base64,") ? uri : null);
        for (var weight : new int[] {400, 700}) {
            builder.useFont(() -> font("next-latin-" + weight), "Next", weight, FontStyle.NORMAL, true);
            builder.useFont(() -> font("next-latin-ext-" + weight), "NextExt", weight, FontStyle.NORMAL, true);
        }
        try {
            builder.run();
        } catch (IOException broken) {
            throw new UncheckedIOException("the paper " + title + " could not be made", broken);
        }
        return out.toByteArray();
    }

    private static java.io.InputStream font(String name) {
        try {
            return new ClassPathResource("fonts/" + name + ".ttf").getInputStream();
        } catch (IOException missing) {
            throw new UncheckedIOException("the typeface is not there", missing);
        }
    }
}
