package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of journal entries and of their lines. */
@Configuration(proxyBeanMethods = false)
class LedgerLists {

    private static Column documentKind() {
        return Column.words(
                        "kind",
                        "Kind",
                        "e.documentKind",
                        Stream.of(DocumentKind.values()).map(Enum::name).toArray(String[]::new))
                .with(Trait.SHOWN);
    }

    @Bean
    static DeclaredList journalEntriesList() {
        return new DeclaredList(
                "journal-entries",
                "Journal entries",
                "entry",
                "entries",
                "JournalEntryEntity e",
                "e.id",
                List.of(),
                Reading.BOOKS,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.number("number", "Entry", "e.number", "ENTRY").with(Trait.SHOWN),
                        Column.day("date", "Date", "e.entryDate").with(Trait.SHOWN, Trait.SORTED),
                        Column.text("event", "Event", "e.event").with(Trait.SHOWN),
                        documentKind(),
                        Column.text("document", "Document", "e.documentNumber")
                                .folded("e.documentNumber", String::strip)
                                .with(Trait.SHOWN),
                        MasterColumns.customerIfAny("e.customerId"),
                        Column.text("by", "Posted by", "e.postedBy").with(Trait.SHOWN),
                        Column.day("writtenOn", "Written", "e.writtenOn"),
                        Column.text("mirrors", "Reverses", "e.mirrors"),
                        Column.text("remark", "Remark", "e.remark")));
    }

    @Bean
    static DeclaredList entryLinesList() {
        return new DeclaredList(
                "entry-lines",
                "Entry lines",
                "line",
                "lines",
                "JournalLineEntity l",
                "l.id",
                List.of(
                        new Join("e", "JournalEntryEntity", "e.id = l.entryId"),
                        new Join("a", "AccountEntity", "a.code = l.account")),
                Reading.BOOKS,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.number("number", "Entry", "e.number", "ENTRY").with(Trait.SHOWN),
                        Column.day("date", "Date", "l.entryDate").with(Trait.SHOWN),
                        Column.text("account", "Account", "l.account")
                                .folded("l.account", String::strip)
                                .with(Trait.SHOWN),
                        Column.text("accountName", "Name", "a.name").with(Trait.SHOWN),
                        Column.words(
                                "role",
                                "Role",
                                "l.role",
                                Stream.of(AccountRole.values())
                                        .map(AccountRole::code)
                                        .toArray(String[]::new)),
                        Column.text("event", "Event", "e.event").with(Trait.SHOWN),
                        documentKind(),
                        Column.text("document", "Document", "e.documentNumber")
                                .folded("e.documentNumber", String::strip)
                                .with(Trait.SHOWN),
                        MasterColumns.customerIfAny("e.customerId"),
                        Column.amount("debit", "Debit", "case when l.amount > 0 then l.amount else 0 end")
                                .with(Trait.SHOWN, Trait.SUMMED),
                        Column.amount("credit", "Credit", "case when l.amount < 0 then - l.amount else 0 end")
                                .with(Trait.SHOWN, Trait.SUMMED)));
    }

    @Bean
    static DeclaredList receivablesMonthsList() {
        return new DeclaredList(
                        "receivables-months",
                        "Days sales outstanding",
                        "month",
                        "months",
                        "ReceivablesMonthEntity x",
                        "x.id",
                        List.of(),
                        Reading.BOOKS,
                        Sorting.by("month"),
                        List.of(
                                Column.day("month", "Month from", "x.monthOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("billed", "Billed, gross", "x.billed")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("owed", "Owed at its end", "x.owed")
                                        .with(Trait.SHOWN),
                                Column.count("days", "Days of the month", "x.days")
                                        .with(Trait.SHOWN),
                                // common practice: what is owed at the end in days of what was billed
                                Column.quantity(
                                                "dso",
                                                "Days sales outstanding",
                                                "case when x.billed <= 0 then null"
                                                        + " else round(x.owed * x.days / x.billed, 1) end")
                                        .with(Trait.SHOWN, Trait.MEDIAN)))
                .within("x.lastOn < :today")
                .workedOut()
                .shipping(Shipped.of("by-month", "Days sales outstanding by month", "month.month:dso"));
    }
}
