package app.euthyna.server.paper;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.paper.PaperText.Fact;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** What all papers have: the company's own head and foot, and the address. */
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

    /** A paper with its head: house, address, title, and a mark where it is a copy or something is not settled. */
    PaperText paper(Party to, String title, int copy, String mark) {
        var house = house();
        var copied = copy == 0 ? "" : copy == Papers.FOR_INSPECTION ? "For inspection only" : "Copy " + copy;
        return new PaperText(new PaperText.Head(
                Texts.joined(
                        " · ",
                        house.name(),
                        house.vatId().isBlank() ? "" : "VAT id " + house.vatId(),
                        house.iban().isBlank() ? "" : "IBAN " + house.iban()),
                Texts.joined(
                        ", ",
                        house.name(),
                        house.street(),
                        Texts.joined(" ", house.postcode(), house.town()),
                        house.country()),
                Texts.joined(
                        "\n",
                        to.name(),
                        to.street(),
                        Texts.joined(" ", to.postcode(), to.town()),
                        to.country(),
                        to.vatId().isBlank() ? "" : "VAT id " + to.vatId()),
                title,
                Stream.of(copied, mark).filter(said -> !said.isBlank()).toList()));
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

    /** A sum and what it is of. */
    static Fact sum(String name, BigDecimal sum) {
        return new Fact(name, Figures.grouped(sum));
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
