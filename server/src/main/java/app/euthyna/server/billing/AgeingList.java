package app.euthyna.server.billing;

import app.euthyna.core.billing.Dunning;
import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Receivables by age, customer by customer, at the end of a day, and the reminder that each was due then. */
@Configuration(proxyBeanMethods = false)
class AgeingList {

    /** How many days invoice {@code n} had been due. */
    private static final String LATE = "timestampdiff(day, n.dueOn, cast(:day as LocalDate))";

    /** What of it was disputed; it can be more than what is open. */
    private static final String CONTESTED = """
            case when n.disputed = true or cast(:day as LocalDate) < cast(:today as LocalDate)
                then coalesce((select coalesce(dis.amount, n.gross) from DisputeEntity dis where dis.invoiceId = n.id
                    and dis.openedOn <= :day and (dis.endedOn is null or dis.endedOn > :day)), 0) else 0 end""";

    /** The step that it called for; nothing for none, see {@link Dunning.Overdue#next}. */
    private static final String NEXT = """
            (select case
                when timestampdiff(day, max(rem.remindedOn), cast(:day as LocalDate)) < %d then null %s end
                from ReminderInvoiceEntity rin
                join ReminderEntity rem on rem.id = rin.reminderId
                where rin.invoiceId = n.id and rem.remindedOn <= :day)""".formatted(
                    Dunning.BETWEEN,
                    IntStream.range(0, Dunning.AFTER_DAYS.size())
                            .mapToObj(step -> "when coalesce(max(rin.step), 0) = %d and %s >= %d then %d"
                                    .formatted(step, LATE, Dunning.AFTER_DAYS.get(step), step + 1))
                            .collect(Collectors.joining(" ")));

    /** From so many days on one may be due. */
    private static final int FIRST = Dunning.AFTER_DAYS.get(0);

    /** How long the first of a customer's invoices had been due. */
    private static final String OLDEST = """
            cast(case when x.oldestDueOn < cast(:day as LocalDate)
                then timestampdiff(day, x.oldestDueOn, cast(:day as LocalDate)) else 0 end as Long)""";

    /** The highest that one of a customer's invoices called for. */
    private static final String REMINDER =
            """
            case when %s < %d then 0 else coalesce((select max(%s) from InvoiceEntity n
                where n.customerId = x.id and %s and %s >= %d and %s > %s), 0)
                end""".formatted(OLDEST, FIRST, NEXT, OpenInvoices.OPEN_THEN, LATE, FIRST, OpenInvoices.KEPT, CONTESTED);

    /** The invoices of those customers that are asked for. */
    private static final String ASKED = "%s and (%s)".formatted(OpenInvoices.OPEN_THEN, DeclaredList.THOSE);

    private static final String CUSTOMERS = """
            (select i.customerId as id, count(*) as invoices, sum(i.still) as still,
                sum(case when i.late <= 0 then i.still else 0 end) as notDue,
                sum(case when i.late > 0 then i.still else 0 end) as pastDue,
                sum(case when i.late > 0 and i.late <= 30 then i.still else 0 end) as upTo30,
                sum(case when i.late > 30 and i.late <= 60 then i.still else 0 end) as upTo60,
                sum(case when i.late > 60 and i.late <= 90 then i.still else 0 end) as upTo90,
                sum(case when i.late > 90 then i.still else 0 end) as older,
                sum(least(i.contested, i.still)) as disputed,
                min(i.dueOn) as oldestDueOn
            from (select n.customerId as customerId, n.dueOn as dueOn, %s as late, %s as still, %s as contested
                from InvoiceEntity n
                where %s) i
            where i.still <> 0 group by i.customerId) x""".formatted(LATE, OpenInvoices.KEPT, CONTESTED, ASKED);

    private static final String LAST_REMINDER =
            "(select max(rem.%s) from ReminderEntity rem where rem.customerId = x.id and rem.remindedOn <= :day)";

    private static final List<String> PAST_DUE = List.of(
            "customer",
            "oldest",
            "upTo30",
            "upTo60",
            "upTo90",
            "older",
            "disputed",
            "pastDue",
            "reminder",
            "remindedOn",
            "noMail");

    @Bean
    static DeclaredList ageingDeclared() {
        return new DeclaredList(
                        "ageing",
                        "Receivables by age",
                        "customer who owes",
                        "customers who owe",
                        CUSTOMERS,
                        "x.id",
                        List.of(),
                        Reading.SELLING,
                        new Sorting(Optional.of("customer"), false),
                        List.of(
                                Column.number("number", "Code", "c.code", "CUSTOMER"),
                                MasterColumns.customer("x.id"),
                                Column.count("invoices", "Invoices", "x.invoices"),
                                days("notDue", "Not due"),
                                days("upTo30", "1 to 30 days"),
                                days("upTo60", "31 to 60"),
                                days("upTo90", "61 to 90"),
                                days("older", "More"),
                                days("disputed", "Disputed"),
                                days("still", "Open").with(Trait.SORTED),
                                amount("pastDue", "Past due"),
                                Column.count("oldest", "Oldest, days", OLDEST),
                                Column.day("oldestDueOn", "Oldest due", "x.oldestDueOn")
                                        .with(Trait.SORTED),
                                Column.flag("isLate", "Something past due", "x.oldestDueOn < cast(:day as LocalDate)"),
                                reminder("reminder", "Reminder due", REMINDER),
                                reminder(
                                        "reminded",
                                        "Last reminder",
                                        "coalesce(%s, 0)".formatted(LAST_REMINDER.formatted("step"))),
                                Column.day("remindedOn", "Reminded", LAST_REMINDER.formatted("remindedOn")),
                                Column.flag("noMail", "No mail address", "c.email = ''"),
                                Column.asOf()))
                .workedOutFrom("n.customerId")
                .keptIn(
                        "CustomerOpenEntity x",
                        "customer",
                        "number",
                        "noMail",
                        "invoices",
                        "still",
                        "oldest",
                        "oldestDueOn",
                        "isLate")
                .proving(Register.OPEN_INVOICES, "asOf")
                .shipping(
                        new Shipped("past-due", "Past due", List.of("isLate:any:YES"), "customer", PAST_DUE, ""),
                        new Shipped(
                                "reminders", "Reminders due", List.of("reminder:none:NONE"), "customer", PAST_DUE, ""),
                        Shipped.of("most", "Who owes most", "customer:still"),
                        Shipped.of("end-of-last-month", "By age at the end of last month", "", "asOf:at:last-month"));
    }

    private static Column amount(String name, String label) {
        return Column.amount(name, label, "x." + name).with(Trait.SUMMED);
    }

    private static Column days(String name, String label) {
        return amount(name, label).with(Trait.SHOWN);
    }

    /** A step of {@link Dunning}. */
    private static Column reminder(String name, String label, String step) {
        return Column.words(
                name,
                label,
                "case %s when 1 then 'FIRST' when 2 then 'SECOND' when 3 then 'FINAL' else 'NONE' end".formatted(step),
                "NONE",
                "FIRST",
                "SECOND",
                "FINAL");
    }
}
