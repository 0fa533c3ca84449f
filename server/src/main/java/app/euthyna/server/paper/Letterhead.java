package app.euthyna.server.paper;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What all papers have: the company's own head and foot, the address, and tables of facts and sums. */
@Component
class Letterhead {

    private final PaperQueries queries;
    private final Company company;

    Letterhead(PaperQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    record House(String name, String street, String postcode, String town, String country, String vatId, String iban) {}

    record Party(String code, String name, String street, String postcode, String town, String country, String vatId) {}

    House house() {
        return queries.house();
    }

    Party party(String code) {
        return queries.party(code)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)));
    }

    /** House, address, title, and a mark where the paper is a copy or speaks of something that is not settled. */
    void head(Html html, Party to, String title, int copy, String mark) {
        var house = house();
        html.raw("<div class=\"foot\">")
                .text(Texts.joined(
                        " · ",
                        house.name(),
                        house.vatId().isBlank() ? "" : "VAT id " + house.vatId(),
                        house.iban().isBlank() ? "" : "IBAN " + house.iban()))
                .raw("</div>");
        html.element(
                "div",
                "house",
                Texts.joined(
                        ", ",
                        house.name(),
                        house.street(),
                        Texts.joined(" ", house.postcode(), house.town()),
                        house.country()));
        html.element(
                "div",
                "to",
                Texts.joined(
                        "\n",
                        to.name(),
                        to.street(),
                        Texts.joined(" ", to.postcode(), to.town()),
                        to.country(),
                        to.vatId().isBlank() ? "" : "VAT id " + to.vatId()));
        html.element("h1", "", title);
        if (copy != 0) {
            html.element("div", "mark", copy == Papers.FOR_INSPECTION ? "For inspection only" : "Copy " + copy);
        }
        if (!mark.isBlank()) {
            html.element("div", "mark", mark);
        }
    }

    static void facts(Html html, List<Map.Entry<String, String>> facts) {
        html.raw("<table class=\"facts\">");
        facts.stream()
                .filter(fact -> !fact.getValue().isBlank())
                .forEach(fact -> html.cells(fact.getKey(), fact.getValue()));
        html.raw("</table>");
    }

    String currency() {
        return company.currency().getCurrencyCode();
    }

    static String vat(String category, BigDecimal rate) {
        return switch (Vat.Category.valueOf(category)) {
            case S -> "VAT " + Figures.plain(rate) + " %";
            case Z -> "VAT 0 %, zero rated";
            case E -> "VAT exempt";
            case AE -> "VAT reverse charge: the customer accounts for it";
            case G -> "VAT 0 %, export outside the union";
        };
    }

    static void sums(
            Html html,
            List<Map.Entry<String, BigDecimal>> first,
            List<Map.Entry<String, BigDecimal>> then,
            String last,
            BigDecimal sum) {
        html.raw("<table class=\"sums\">");
        first.forEach(row -> html.cells(row.getKey(), "#" + Figures.grouped(row.getValue())));
        then.forEach(row -> html.cells(row.getKey(), "#" + Figures.grouped(row.getValue())));
        html.raw("<tr class=\"last\">")
                .element("td", "", last)
                .element("td", "figure", Figures.grouped(sum))
                .raw("</tr></table>");
    }

    /** A PO number, on a paper that the warehouse makes too: it does not read them. */
    static String read(String po) {
        return ReadBy.Group.SELLING.isRead() ? po : "";
    }

    static String price(Price price) {
        return Figures.price(price.unit())
                + (price.discountPercent().signum() == 0 ? "" : " −" + Figures.plain(price.discountPercent()) + " %");
    }
}
