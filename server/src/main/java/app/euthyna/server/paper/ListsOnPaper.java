package app.euthyna.server.paper;

import app.euthyna.core.shared.Figures;
import app.euthyna.server.lists.ListPaper;
import app.euthyna.server.platform.Company;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Lists on paper: of the company, for nobody in particular, across the page. */
@Component
class ListsOnPaper implements ListPaper {

    private final Pdf pdf;
    private final Company company;

    ListsOnPaper(Pdf pdf, Company company) {
        this.pdf = pdf;
        this.company = company;
    }

    @Override
    public byte[] pdf(Sheet sheet) {
        var rows = new ArrayList<>(sheet.rows());
        rows.add(sheet.total());
        var told = "%s · %s".formatted(company.facts().name(), Figures.day(company.today()));
        var paper = new PaperText(new PaperText.Head(
                        told,
                        "%s, %s".formatted(told, company.currency().getCurrencyCode()),
                        "",
                        sheet.title(),
                        List.of()))
                .paragraph(String.join("; ", sheet.filters()))
                .table(
                        sheet.columns().stream()
                                .map(column -> new PaperText.Column(column.title(), column.isFigure()))
                                .toList(),
                        rows,
                        row -> row);
        return pdf.across(sheet.title(), paper);
    }
}
