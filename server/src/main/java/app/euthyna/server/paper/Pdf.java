package app.euthyna.server.paper;

import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.util.XRLog;
import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import org.springframework.core.io.ClassPathResource;
import org.springframework.stereotype.Component;

/** Makes PDF of XHTML, with the typeface embedded. Nothing outside the page is ever fetched. */
@Component
class Pdf {

    private final TemplateEngine templates = TemplateEngine.createPrecompiled(ContentType.Html);

    /** One file of papers, in the sequence given. */
    byte[] of(String title, List<PaperText> papers) {
        return set(title, papers, false);
    }

    /** One paper across the page, the last row of its table below a line. */
    byte[] across(String title, PaperText paper) {
        return set(title, List.of(paper), true);
    }

    private byte[] set(String title, List<PaperText> papers, boolean across) {
        var page = new WellFormed();
        templates.render("file.jte", Map.of("title", title, "papers", papers, "across", across), page);
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
