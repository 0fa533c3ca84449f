package app.euthyna.server.billing;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Unended;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** On which days something of an invoice was open. */
class InvoiceEntityTests {

    private static final LocalDate TODAY = LocalDate.of(2026, 10, 5);
    private static final BigDecimal HALF = new BigDecimal("50.0000");

    private final CommandContext today = new CommandContext(new Person("rec", Role.RECEIVABLES, Set.of()), TODAY, "");
    private final InvoiceEntity invoice = new InvoiceEntity();

    InvoiceEntityTests() {
        invoice.gross = new BigDecimal("100.0000");
        invoice.opened();
    }

    @Test
    void isOpenUntilAllOfItIsSettled() {
        assertThat(invoice.openUntil).isEqualTo(Unended.DAY);
        invoice.settle(HALF, today.dated(TODAY.minusDays(2)));
        assertThat(invoice.openAmount).isEqualByComparingTo("50");
        assertThat(invoice.openUntil).isEqualTo(Unended.DAY);
        invoice.settle(HALF, today.dated(TODAY.minusDays(4)));
        assertThat(invoice.openUntil).as("by today all has happened").isEqualTo(TODAY);
        assertThat(invoice.touchedOn).as("the earliest of both").isEqualTo(TODAY.minusDays(4));
    }

    @Test
    void isOpenAnewOnceWhatSettledItIsTakenBack() {
        invoice.settle(invoice.gross, today);
        invoice.settle(invoice.gross.negate(), today);
        assertThat(invoice.openUntil).isEqualTo(Unended.DAY);
        invoice.takenBack(today);
        assertThat(invoice.openAmount).isZero();
        assertThat(invoice.openUntil).isEqualTo(TODAY);
        assertThat(invoice.reversedOn).isEqualTo(TODAY);
    }

    @Test
    void neverIsWhereItComesToNothing() {
        var free = new InvoiceEntity();
        free.gross = new BigDecimal("0.0000");
        free.opened();
        assertThat(free.openUntil).isNull();
    }
}
