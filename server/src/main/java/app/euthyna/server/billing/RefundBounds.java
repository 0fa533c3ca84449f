package app.euthyna.server.billing;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what bounds a refund: what was refunded of late, and who recorded the money that it began as. */
@Component
class RefundBounds {

    private final JdbcClient jdbc;
    private final Company company;
    private final CompanyRulesStore rules;

    RefundBounds(JdbcClient jdbc, Company company, CompanyRulesStore rules) {
        this.jdbc = jdbc;
        this.company = company;
        this.rules = rules;
    }

    RefundRules.Bounds of(CommandContext context, String customer, DocumentRef source) {
        var since = context.today().minusDays(RefundRules.DAYS_TOGETHER);
        return new RefundRules.Bounds(
                Optional.ofNullable(rules.inForce().unwind().refundLimit()).map(company::money),
                sum("""
                    select coalesce(sum(r.amount), 0) from refund r join customer c on c.id = r.customer_id
                    where c.code = ? and r.reversed_on is null and r.refunded_on >= ? and exists (select 1 from history h
                        where h.document_kind = 'REFUND' and h.document_number = r.number and h.event = 'refunded'
                            and h.by_user = ?)\
                    """, customer, since, context.person().username()),
                sum("""
                    select coalesce(sum(r.amount), 0) from refund r
                    where r.source_number = ? and r.source_kind = ? and r.reversed_on is null and r.refunded_on >= ?\
                    """, source.number(), source.kind().name(), since),
                recordedBy(source));
    }

    private Money sum(String sql, Object... parameters) {
        return company.money(
                jdbc.sql(sql).params(parameters).query(BigDecimal.class).single());
    }

    private Set<String> recordedBy(DocumentRef source) {
        var names = new HashSet<String>();
        switch (source.kind()) {
            case PAYMENT -> names.addAll(received("PAYMENT", source.number()));
            case DEPOSIT -> deposit(source.number(), names);
            default -> {
                // what a credit note sets free had paid its invoice
                jdbc.sql("""
                    select distinct p.number from credit_note k join allocation a on a.invoice_id = k.invoice_id
                    join payment p on p.id = a.payment_id where k.number = ? and p.kind = 'PAYMENT'\
                    """)
                        .param(source.number())
                        .query(String.class)
                        .list()
                        .forEach(payment -> names.addAll(received("PAYMENT", payment)));
                jdbc.sql("""
                    select distinct d.number from credit_note k join deposit_use u on u.invoice_id = k.invoice_id
                    join deposit d on d.id = u.deposit_id where k.number = ?\
                    """)
                        .param(source.number())
                        .query(String.class)
                        .list()
                        .forEach(deposit -> deposit(deposit, names));
            }
        }
        return names;
    }

    /** A deposit that was moved on began as another. */
    private void deposit(String number, Set<String> names) {
        var origin = jdbc.sql("select m.number from deposit d join deposit m on m.id = d.moved_from where d.number = ?")
                .param(number)
                .query(String.class)
                .optional();
        if (origin.isPresent()) {
            deposit(origin.get(), names);
        } else {
            names.addAll(received(DocumentKind.DEPOSIT.name(), number));
        }
    }

    private Set<String> received(String kind, String number) {
        return Set.copyOf(
                jdbc.sql("select distinct by_user from history where document_kind = ? and document_number = ?"
                                + " and event = 'received'")
                        .params(kind, number)
                        .query(String.class)
                        .list());
    }
}
