package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.shared.LineRef;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Keeps returns with what came of them, and credit notes. */
@Component
@Order(46)
class ReturnsSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.ReturnAuthorised.class, Store::returnAuthorised)
            .on(Effect.ReturnWithdrawn.class, Store::returnWithdrawn)
            .on(Effect.ReturnReceived.class, Store::returnReceived)
            .on(Effect.ReturnInspected.class, Store::returnInspected)
            .on(Effect.CreditNotePosted.class, Store::creditNotePosted)
            .othersDoNotConcernIt();

    private final JdbcClient jdbc;
    private final Ids ids;
    private final History history;
    private final ChainReader chains;
    private final Company company;

    ReturnsSink(JdbcClient jdbc, Ids ids, History history, ChainReader chains, Company company) {
        this.chains = chains;
        this.company = company;
        this.jdbc = jdbc;
        this.ids = ids;
        this.history = history;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        STORES.of(new Store(context), effect);
    }

    /** What is owed for a return is worked out from the chains once all is stored: lists and lanes ask for it. */
    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        var touched = new TreeMap<String, Set<String>>();
        for (var effect : batch) {
            if (effect instanceof Effect.ReturnReceived
                    || effect instanceof Effect.ReturnInspected
                    || effect instanceof Effect.CreditNotePosted) {
                for (var chain : chains.chains(effect.orders()).values()) {
                    chain.returns().forEach(goods -> touched.put(goods.number(), goods.orders()));
                }
            }
        }
        touched.forEach((number, orders) -> {
            var known = chains.chains(orders).values();
            var owed = Crediting.owed(Chain.returnOf(known, number), known, company.currency());
            jdbc.sql("update goods_return set credit_due = ?, credited_ahead = ? where number = ?")
                    .params(owed.toCredit().amount(), owed.ahead().amount(), number)
                    .update();
        });
    }

    private final class Store {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
        }

        private void returnAuthorised(Effect.ReturnAuthorised effect) {
            var goods = effect.authorised();
            jdbc.sql("""
                insert into goods_return (number, customer_id, authorised_on, reason_code, remark, withdrawn,
                    expects, inspecting, version)
                values (?, ?, ?, ?, ?, false, true, false, 0)\
                """)
                    .params(
                            goods.number(),
                            ids.customer(goods.customer()),
                            goods.on(),
                            goods.reason(),
                            context.reason())
                    .update();
            var id = id(goods.number());
            for (var line : goods.lines()) {
                jdbc.sql("""
                    insert into return_line (return_id, line_no, root_order_id, order_line_no, dispatch_id,
                        dispatch_line_no, invoice_id, invoice_line_no, item_id, site_id, authorised)
                    values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
                    """)
                        .param(id)
                        .param(line.no())
                        .param(ids.order(line.orderLine().number()))
                        .param(line.orderLine().line())
                        .param(ids.dispatch(line.dispatchLine().number()))
                        .param(line.dispatchLine().line())
                        .param(invoice(line.invoiceLine()))
                        .param(line.invoiceLine().map(LineRef::line).orElse(null))
                        .param(ids.item(line.item()))
                        .param(ids.site(line.site()))
                        .param(line.authorised().value())
                        .update();
            }
        }

        private Long invoice(Optional<LineRef> line) {
            return line.map(LineRef::number).map(ids::invoice).orElse(null);
        }

        private long id(String number) {
            return jdbc.sql("select id from goods_return where number = ?")
                    .param(number)
                    .query(Long.class)
                    .single();
        }

        private void returnWithdrawn(Effect.ReturnWithdrawn effect) {
            jdbc.sql("update goods_return set withdrawn = true, expects = false, version = version + 1 where"
                            + " number = ?")
                    .param(effect.withdrawn().number())
                    .update();
        }

        private void returnReceived(Effect.ReturnReceived effect) {
            var id = id(effect.before().number());
            for (var arrival : effect.arrivals()) {
                var part = arrival.part();
                jdbc.sql("""
                    insert into return_part (return_line_id, part_no, received_on, standing, invoice_id,
                        invoice_line_no, quantity, cost, moment)
                    select l.id, ?, cast(? as date), ?, cast(? as bigint), cast(? as integer), ?, ?,
                        cast(? as bigint) from return_line l where l.return_id = ? and l.line_no = ?\
                    """)
                        .param(part.no())
                        .param(part.on())
                        .param(part.standing().name())
                        .param(invoice(part.invoiceLine()))
                        .param(part.invoiceLine().map(LineRef::line).orElse(null))
                        .param(part.quantity().value())
                        .param(part.cost().amount())
                        .param(history.moment())
                        .param(id)
                        .param(arrival.line())
                        .update();
            }
            settle(id);
        }

        /** What lists ask for: more to come, something in inspection, and since when. */
        private void settle(long id) {
            jdbc.sql("""
                update goods_return set version = version + 1,
                    expects = withdrawn = false and exists (select 1 from return_line l
                    where l.return_id = goods_return.id
                        and l.authorised > coalesce((select sum(p.quantity) from return_part p
                        where p.return_line_id = l.id), 0)),
                    inspecting = exists (select 1 from return_line l join return_part p
                        on p.return_line_id = l.id where l.return_id = goods_return.id
                        and p.quantity > coalesce((select sum(o.quantity) from return_outcome o
                        where o.part_id = p.id), 0)),
                    received_on = (select max(p.received_on) from return_line l join return_part p
                        on p.return_line_id = l.id where l.return_id = goods_return.id)
                where id = ?\
                """).param(id).update();
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            var id = id(effect.before().number());
            for (var result : effect.results()) {
                var outcome = result.outcome();
                jdbc.sql("""
                    insert into return_outcome (part_id, kind, decided_on, quantity, cost, site, remark, moment)
                    select p.id, ?, cast(? as date), ?, ?, ?, ?, cast(? as bigint) from return_part p
                    join return_line l on l.id = p.return_line_id
                    where l.return_id = ? and l.line_no = ? and p.part_no = ?\
                    """)
                        .params(
                                outcome.kind().name(),
                                outcome.on(),
                                outcome.quantity().value(),
                                outcome.cost().amount(),
                                outcome.site(),
                                outcome.remark(),
                                history.moment(),
                                id,
                                result.line(),
                                result.part())
                        .update();
            }
            settle(id);
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            var credit = effect.credit();
            jdbc.sql("insert into credit_note (number, customer_id, invoice_id, credited_on, reason, net, vat,"
                            + " gross, version) values (?, ?, ?, ?, ?, ?, ?, ?, 0)")
                    .params(
                            credit.number(),
                            ids.customer(credit.customer()),
                            ids.invoice(credit.invoice()),
                            credit.on(),
                            credit.reason(),
                            credit.totals().net().amount(),
                            credit.totals().vat().amount(),
                            credit.totals().gross().amount())
                    .update();
            var id = jdbc.sql("select id from credit_note where number = ?")
                    .param(credit.number())
                    .query(Long.class)
                    .single();
            credit.lines().forEach(line -> line(id, line));
            credit.totals()
                    .bands()
                    .forEach(band -> jdbc.sql(
                                    "insert into credit_note_vat (credit_note_id, vat_category, vat_rate, taxable,"
                                            + " tax) values (?, ?, ?, ?, ?)")
                            .params(
                                    id,
                                    band.vat().category().name(),
                                    band.vat().ratePercent(),
                                    band.taxable().amount(),
                                    band.tax().amount())
                            .update());
        }

        private void line(long credit, CreditNote.Line line) {
            jdbc.sql("""
                insert into credit_note_line (credit_note_id, line_no, invoice_line_no, root_order_id, order_line_no,
                    return_id, return_line_no, item_code, description,
                    quantity, net, fee, fee_percent, ahead, deferred, vat_category, vat_rate)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
                """)
                    .param(credit)
                    .param(line.no())
                    .param(line.invoiceLine())
                    .param(ids.order(line.orderLine().number()))
                    .param(line.orderLine().line())
                    .param(line.returnLine().map(r -> id(r.number())).orElse(null))
                    .param(line.returnLine().map(LineRef::line).orElse(null))
                    .param(line.item())
                    .param(line.description())
                    .param(line.quantity().value())
                    .param(line.net().amount())
                    .param(line.fee().amount())
                    .param(line.feePercent())
                    .param(line.ahead().value())
                    .param(line.deferred().amount())
                    .param(line.vat().category().name())
                    .param(line.vat().ratePercent())
                    .update();
        }
    }
}
