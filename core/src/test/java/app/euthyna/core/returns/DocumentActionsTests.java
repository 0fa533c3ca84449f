package app.euthyna.core.returns;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Refusal;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** What a return and an invoice are there for as they stand, and that the deed itself says the same. */
class DocumentActionsTests {

    private final Sale sale = new Sale(stock(1, "A", "10", "10.00", "21"));

    private static List<String> told(List<? extends Offered<?>> offered) {
        return offered.stream()
                .map(one -> one.action()
                        + one.refusal()
                                .map(Refusal::code)
                                .map(code -> " " + code)
                                .orElse(""))
                .toList();
    }

    @Nested
    class OfAReturn {

        private final Return goods;

        OfAReturn() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            sale.bill();
            goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(4)));
        }

        private List<String> now() {
            return told(ReturnActions.of(sale.now(goods), List.of(sale.chain()), Sale.POLICY));
        }

        @Test
        void whatIsExpectedIsReceivedCreditedAheadOrWithdrawn() {
            assertThat(now()).containsExactly("RECEIVE", "CREDIT_AHEAD", "WITHDRAW");
            sale.receive(goods, new Returning.Came(1, q(1)));
            assertThat(now()).containsExactly("RECEIVE", "INSPECT", "CREDIT", "CREDIT_AHEAD", "WITHDRAW");
        }

        @Test
        void whatWasCreditedAheadHasToCome() {
            sale.creditAhead(goods).get();
            assertThat(now()).hasSize(2).startsWith("RECEIVE").last().asString().startsWith("WITHDRAW ");
            assertThat("WITHDRAW "
                            + codes(Returning.withdraw(
                                    sale.now(goods), sale.chain().credits())))
                    .as("the deed says the same")
                    .isEqualTo(now().get(1));
        }

        @Test
        void aheadOnlyForReasonsForWhichTheCompanyDoesSo() {
            var unwanted = sale.allowed("unwanted", ofDispatch("D-1", 1, q(1)));
            assertThat(told(ReturnActions.of(unwanted, List.of(sale.chain()), Sale.POLICY)))
                    .containsExactly("RECEIVE", "WITHDRAW");
        }

        @Test
        void whatIsDoneIsOfferedNoMore() {
            sale.receive(goods, new Returning.Came(1, q(4)));
            sale.restock(goods);
            assertThat(now()).containsExactly("CREDIT");
            sale.credit(goods, "0").get();
            assertThat(now()).isEmpty();
        }
    }

    @Nested
    class OfAnInvoice {

        private List<String> now(String number, Money open) {
            var invoice = sale.chain().invoices().get(0);
            assertThat(invoice.number()).isEqualTo(number);
            return told(InvoiceActions.of(invoice, sale.chain().credits(), open, java.util.Optional.empty()));
        }

        private void credited(Crediting.Share share) {
            sale.happen(Crediting.credit(
                            sale.chain().invoices().get(0),
                            sale.chain().credits(),
                            List.of(share),
                            eur("0.00"),
                            new Crediting.Terms(
                                    () -> "C2026-" + (1 + sale.chain().credits().size()),
                                    TODAY,
                                    "agreed",
                                    BigDecimal.ZERO,
                                    false))
                    .get());
        }

        @Test
        void isCreditedRebilledAndPaidWhileSomethingIsLeft() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var invoice = sale.bill();
            assertThat(now(invoice.number(), eur("72.60")))
                    .containsExactly("CREDIT", "CREDIT_AND_REBILL", "PAY", "DISPUTE", "WRITE_OFF");
            assertThat(now(invoice.number(), eur("0.00"))).as("paid").containsExactly("CREDIT", "CREDIT_AND_REBILL");
            credited(Crediting.Share.of(1, q(6)));
            assertThat(now(invoice.number(), eur("0.00")))
                    .as("all of it is credited")
                    .containsExactly("CREDIT more-than-creditable", "CREDIT_AND_REBILL more-than-creditable");
            sale.happen(new Effect.InvoiceReversed(invoice));
            assertThat(now(invoice.number(), eur("0.00"))).isEmpty();
        }

        @Test
        void thatBilledAheadIsNotBilledAgain() {
            sale.billAhead(q(4));
            assertThat(now("2026-1", eur("48.40")))
                    .containsExactly("CREDIT", "CREDIT_AND_REBILL billed-ahead", "PAY", "DISPUTE", "WRITE_OFF");
        }
    }
}
