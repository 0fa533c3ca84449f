package app.euthyna.server.billing;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Part;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What customers owed, and what of theirs was set against nothing yet, at the end of a day. */
@Configuration(proxyBeanMethods = false)
class BalanceLists {

    private static final Sorting OLDEST_FIRST = new Sorting(Optional.of("date"), false);

    /** How long they had been due then. */
    private static final String AGE = """
            case when n.dueOn >= cast(:day as LocalDate) then 'NOT_DUE'
                when timestampdiff(day, n.dueOn, cast(:day as LocalDate)) <= 30 then 'UP_TO_30_DAYS'
                when timestampdiff(day, n.dueOn, cast(:day as LocalDate)) <= 60 then 'UP_TO_60_DAYS'
                when timestampdiff(day, n.dueOn, cast(:day as LocalDate)) <= 90 then 'UP_TO_90_DAYS'
                else 'OLDER' end""";

    @Bean
    static DeclaredList openInvoicesList() {
        return new DeclaredList(
                        "open-invoices",
                        "Open invoices",
                        "invoice",
                        "invoices",
                        "InvoiceEntity n",
                        "n.id",
                        List.of(),
                        Reading.SELLING,
                        new Sorting(Optional.of("dueOn"), false),
                        List.of(
                                Column.number("number", "Invoice", "n.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("n.customerId"),
                                Column.day("date", "Date", "n.invoicedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.day("dueOn", "Due", "n.dueOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("gross", "Gross", "n.gross").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("still", "Open", OpenInvoices.KEPT)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.words(
                                        "age",
                                        "Past due",
                                        AGE,
                                        "NOT_DUE",
                                        "UP_TO_30_DAYS",
                                        "UP_TO_60_DAYS",
                                        "UP_TO_90_DAYS",
                                        "OLDER"),
                                Column.asOf()))
                .openBetween("invoicedOn", "openUntil", OpenInvoices.KEPT)
                .proving(Register.OPEN_INVOICES, "asOf")
                .shipping(
                        Shipped.of("by-customer", "Open by customer", "customer:still"),
                        Shipped.of("by-age", "Open by age", "age:still"),
                        Shipped.of("past-due", "Past due", "customer:still", "dueOn:in:before-today"),
                        Shipped.of(
                                "end-of-last-month",
                                "Open at the end of last month",
                                "customer:still",
                                "asOf:at:last-month"));
    }

    /** Of a deposit's credit what had become credit; of all else what came in, unless it was taken back. */
    private static final String CAME_IN = """
            case when p.reversedOn <= :day then 0
                when p.kind = 'DEPOSIT' then coalesce((select sum(dus.amount) from DepositUseEntity dus
                    join DepositEntity dep on dep.id = dus.depositId
                    where dep.number = p.number and dus.kind = 'CREDITED' and dus.usedOn <= :day), 0)
                else p.amount end
            - case when p.reversedOn <= :day then 0
                else coalesce((select sum(rfd.amount) from RefundEntity rfd
                    where rfd.sourceNumber = p.number and rfd.sourceKind = p.kind and rfd.orderId is null
                    and rfd.refundedOn <= :day and (rfd.reversedOn is null or rfd.reversedOn > :day)), 0) end
            - coalesce((select sum(alc.amount) from AllocationEntity alc
                where alc.paymentId = p.id and alc.discount = false and alc.allocatedOn <= :day), 0)""";

    /** What has something left, or had and was settled, refunded or taken back since. */
    private static final String CREDIT = """
            join (select pyl.id as id from PaymentEntity pyl where pyl.leftAmount >= 0.0001bd
                union select pyr.id from PaymentEntity pyr where pyr.reversedOn > :day
                union select lal.paymentId from AllocationEntity lal where lal.allocatedOn > :day
                union select pyf.id from RefundEntity lrf
                    join PaymentEntity pyf on pyf.number = lrf.sourceNumber and pyf.kind = lrf.sourceKind
                    where lrf.refundedOn > :day) cand on cand.id = p.id""";

    @Bean
    static DeclaredList onAccountList() {
        return new DeclaredList(
                        "on-account",
                        "Customer credit",
                        "document with credit",
                        "documents with credit",
                        "PaymentEntity p",
                        "p.id",
                        List.of(),
                        Reading.SELLING,
                        OLDEST_FIRST,
                        List.of(
                                Column.number("number", "Document", "p.number", "PAYMENT")
                                        .with(Trait.SHOWN),
                                Column.choice("kind", "Kind", "p.kind", DocumentKind.class)
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("p.customerId"),
                                Column.day("date", "Date", "p.receivedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("amount", "Amount", "p.amount").with(Trait.SHOWN),
                                Column.amount("still", "Not set against anything", CAME_IN)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .within(
                        new Part("", "p.leftAmount >= 0.0001bd"),
                        new Part(CREDIT, "p.receivedOn <= :day and %s <> 0".formatted(CAME_IN)))
                .opening("p.kind")
                .proving(Register.ON_ACCOUNT, "asOf");
    }

    @Bean
    static DeclaredList unappliedDepositsList() {
        var still = """
                d.amount - coalesce((select sum(dus.amount) from DepositUseEntity dus
                where dus.depositId = d.id and dus.usedOn <= :day), 0)""";
        return new DeclaredList(
                        "unapplied-deposits",
                        "Unapplied deposits",
                        "deposit",
                        "deposits",
                        "DepositEntity d",
                        "d.id",
                        List.of(new Join("o", "OrderEntity", "o.id = d.orderId")),
                        Reading.SELLING,
                        OLDEST_FIRST,
                        List.of(
                                Column.number("number", "Deposit", "d.number", "DEPOSIT")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("d.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Date", "d.receivedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("amount", "Amount", "d.amount").with(Trait.SHOWN),
                                Column.amount("still", "Unapplied", still).with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .within(
                        new Part("", "d.leftAmount >= 0.0001bd"),
                        new Part("""
                        join (select dpl.id as id from DepositEntity dpl where dpl.leftAmount >= 0.0001bd
                            union select lus.depositId from DepositUseEntity lus where lus.usedOn > :day) cand
                            on cand.id = d.id""", "d.receivedOn <= :day and %s <> 0".formatted(still)))
                .proving(Register.UNAPPLIED_DEPOSITS, "asOf");
    }
}
