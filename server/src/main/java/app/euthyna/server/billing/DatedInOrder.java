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
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Lets nothing be written that is dated before what it comes from. A command of today needs no look: nothing is dated
 * later.
 */
@Component
class DatedInOrder implements EffectGate {

    private final JdbcClient jdbc;
    private final ChainReader chains;

    DatedInOrder(JdbcClient jdbc, ChainReader chains) {
        this.jdbc = jdbc;
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
                case ORDER -> day("select ordered_on from sales_order where number = ?", document.number());
                case DISPATCH ->
                    day("select coalesce(departed_on, staged_on) from dispatch where number = ?", document.number());
                case INVOICE -> day("select invoiced_on from invoice where number = ?", document.number());
                case DEPOSIT -> day("select received_on from deposit where number = ?", document.number());
                case REFUND -> day("select refunded_on from refund where number = ?", document.number());
                case PAYMENT, CREDIT_NOTE -> day("select received_on from payment where number = ?", document.number());
                default -> Optional.empty();
            };
        }

        @Override
        public Optional<LocalDate> settled(DocumentRef source, String invoice) {
            return day("""
                select max(t.settled_on) from (
                    select a.allocated_on as settled_on from allocation a join payment p on p.id = a.payment_id
                    join invoice i on i.id = a.invoice_id where p.number = ? and i.number = ? and a.amount > 0
                    union all
                    select u.used_on from deposit_use u join deposit d on d.id = u.deposit_id
                    join invoice i on i.id = u.invoice_id
                    where d.number = ? and i.number = ? and u.kind = 'APPLIED' and u.amount > 0) t\
                """, source.number(), invoice, source.number(), invoice);
        }

        @Override
        public Optional<LocalDate> setFree(DocumentRef source) {
            return day("""
                select max(t.freed_on) from (
                    select a.allocated_on as freed_on from allocation a join payment p on p.id = a.payment_id
                    where p.number = ? and a.amount < 0
                    union all
                    select u.used_on from deposit_use u join deposit d on d.id = u.deposit_id
                    where d.number = ? and (u.kind = 'CREDITED' or u.amount < 0)) t\
                """, source.number(), source.number());
        }

        @Override
        public Quantity credited(LineRef returnLine, LineRef invoiceLine) {
            return new Quantity(jdbc.sql("""
                select coalesce(sum(l.quantity), 0) from credit_note_line l
                join credit_note c on c.id = l.credit_note_id join invoice i on i.id = c.invoice_id
                join goods_return g on g.id = l.return_id
                where g.number = ? and l.return_line_no = ? and i.number = ? and l.invoice_line_no = ?\
                """)
                    .params(returnLine.number(), returnLine.line(), invoiceLine.number(), invoiceLine.line())
                    .query(BigDecimal.class)
                    .single());
        }

        @Override
        public Optional<Return> goods(String number) {
            return jdbc.sql("""
                select min(o.number) from return_line l join goods_return g on g.id = l.return_id
                join sales_order o on o.id = l.root_order_id where g.number = ?\
                """)
                    .param(number)
                    .query(String.class)
                    .optional()
                    .flatMap(order -> chains.chain(order).returnOf(number));
        }

        private Optional<LocalDate> day(String sql, Object... parameters) {
            return jdbc
                    .sql(sql)
                    .params(parameters)
                    .query((r, n) -> Optional.ofNullable(r.getObject(1, LocalDate.class)))
                    .list()
                    .stream()
                    .flatMap(Optional::stream)
                    .findFirst();
        }
    }
}
