package app.euthyna.core.order;

import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Vat;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ReplacingTests {

    private static List<String> codes(Order order, Replacing.Replaced of) {
        return Replacing.refusals(order, of).stream().map(Refusal::code).toList();
    }

    private static Replacing.Replaced replaced(DocumentKind kind, Map<String, Quantity> taken) {
        return new Replacing.Replaced(new DocumentRef(kind, "X-1"), "C", Map.of("A", q(5), "B", q(1)), taken);
    }

    private static Order asking(OrderLine... lines) {
        return order("SO-2", OrderState.DRAFT, lines);
    }

    @Test
    void takesWhatThereIsAndNotOneMore() {
        var all = asking(stock(1, "A", "3", "0", "0"), stock(2, "B", "1", "0", "0"), stock(3, "A", "2", "0", "0"));
        assertThat(codes(all, replaced(DocumentKind.RETURN, Map.of()))).isEmpty();
        var more = asking(stock(1, "A", "3", "0", "0"), stock(2, "A", "3", "0", "0"));
        assertThat(codes(more, replaced(DocumentKind.RETURN, Map.of()))).containsExactly("more-than-returnable");
        assertThat(codes(more, replaced(DocumentKind.DISPATCH, Map.of()))).containsExactly("more-than-dispatched");
    }

    @Test
    void lessWhatOthersReplacedOfIt() {
        var three = asking(stock(1, "A", "3", "0", "0"));
        assertThat(codes(three, replaced(DocumentKind.RETURN, Map.of("A", q(2)))))
                .isEmpty();
        assertThat(codes(three, replaced(DocumentKind.RETURN, Map.of("A", q(3)))))
                .hasSize(1);
        assertThat(codes(three, replaced(DocumentKind.RETURN, Map.of("A", q(9)))))
                .as("nothing is left, and not less than nothing")
                .hasSize(1);
    }

    @Test
    void nothingThatIsNotInItAndNothingOfAnother() {
        assertThat(codes(asking(stock(1, "Z", "1", "0", "0")), replaced(DocumentKind.RETURN, Map.of())))
                .containsExactly("more-than-returnable");
        var others =
                new Replacing.Replaced(new DocumentRef(DocumentKind.RETURN, "X-1"), "D", Map.of("A", q(5)), Map.of());
        assertThat(codes(asking(stock(1, "A", "1", "0", "0")), others)).containsExactly("wrong-customer");
    }

    @Test
    void remarksAreNotReplaced() {
        assertThat(codes(asking(line(1, LineKind.TEXT, "", "1", "0", "0")), replaced(DocumentKind.RETURN, Map.of())))
                .isEmpty();
    }

    /**
     * EN 16931-1, code list of VAT categories (UNTDID 5305): AE reverse charge, G export outside the EU, both at 0 %.
     */
    @Test
    void salesAreTaxedAsTheCustomerIsTreated() {
        var standard = Vat.of(Vat.Category.S, "21");
        assertThat(VatTreatment.DOMESTIC.apply(standard)).isEqualTo(standard);
        assertThat(VatTreatment.REVERSE_CHARGE.apply(standard)).isEqualTo(Vat.of(Vat.Category.AE, "0"));
        assertThat(VatTreatment.EXPORT.apply(standard)).isEqualTo(Vat.of(Vat.Category.G, "0"));
    }
}
