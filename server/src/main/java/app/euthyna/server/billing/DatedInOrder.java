package app.euthyna.server.billing;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Precedence;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectGate;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Lets nothing be written that is dated before what it comes from. A command of today needs no look: nothing is dated
 * later.
 */
@Component
class DatedInOrder implements EffectGate {

    private final InvoiceQueries queries;
    private final ChainReader chains;

    DatedInOrder(InvoiceQueries queries, ChainReader chains) {
        this.queries = queries;
        this.chains = chains;
    }

    @Override
    public void check(CommandContext context, List<? extends Effect> effects) {
        if (context.date().isBefore(context.today())) {
            var refusals = Precedence.refusals(effects, context.date(), new Stored());
            if (!refusals.isEmpty()) {
                throw new RefusedException(refusals);
            }
        }
    }

    private final class Stored implements Precedence.Origins {

        @Override
        public Optional<LocalDate> dateOf(DocumentRef document) {
            return switch (document.kind()) {
                case ORDER -> queries.dateOfOrder(document.number());
                case DISPATCH -> queries.dateOfDispatch(document.number());
                case INVOICE -> queries.dateOfInvoice(document.number());
                case DEPOSIT -> queries.dateOfDeposit(document.number());
                case REFUND -> queries.dateOfRefund(document.number());
                case PAYMENT, CREDIT_NOTE -> queries.dateOfPayment(document.number());
                default -> Optional.empty();
            };
        }

        @Override
        public Optional<LocalDate> settled(DocumentRef source, String invoice) {
            return last(queries.paid(source.number(), invoice), queries.depositApplied(source.number(), invoice));
        }

        @Override
        public Optional<LocalDate> setFree(DocumentRef source) {
            return last(queries.takenOff(source.number()), queries.depositSetFree(source.number()));
        }

        private static Optional<LocalDate> last(LocalDate... days) {
            return Stream.of(days).filter(Objects::nonNull).max(Comparator.naturalOrder());
        }

        @Override
        public Quantity credited(LineRef returnLine, LineRef invoiceLine) {
            return new Quantity(
                    queries.credited(returnLine.number(), returnLine.line(), invoiceLine.number(), invoiceLine.line()));
        }

        @Override
        public Optional<Return> goods(String number) {
            return queries.firstOrderOfReturn(number)
                    .flatMap(order -> chains.chain(order).returnOf(number));
        }
    }
}
