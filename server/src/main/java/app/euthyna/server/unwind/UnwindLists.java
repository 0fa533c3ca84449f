package app.euthyna.server.unwind;

import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.masterdata.UnwindRules;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The list of what was undone, or waits to be. */
@Configuration(proxyBeanMethods = false)
class UnwindLists {

    @Bean
    static DeclaredList undoneList(CompanyRulesStore rules) {
        return new DeclaredList(
                        "undone",
                        "What was undone",
                        "plan",
                        "plans",
                        "UnwindingEntity u",
                        "u.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Document", "u.subjectNumber", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("u.customerId"),
                                Column.day("date", "Undone", "u.undoneOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.words("intent", "Way", "u.intent", UnwindService.intents()),
                                Column.text("words", "What", "u.words").with(Trait.SHOWN),
                                Column.told(
                                                "reason",
                                                "Reason",
                                                "u.reasonCode",
                                                () -> rules.inForce().unwind().reasons(),
                                                UnwindRules.Reason::code,
                                                UnwindRules.Reason::words)
                                        .with(Trait.SHOWN),
                                Column.text("why", "In words", "u.reason"),
                                Column.text("by", "By", "u.undoneBy").with(Trait.SHOWN, Trait.GROUPED),
                                Column.amount("amount", "Amount", "u.amount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.words("state", "State", "u.state", "WAITING", "DONE", "ABANDONED")
                                        .with(Trait.SHOWN),
                                Column.day("touchedOn", "Last step", "u.touchedOn")))
                .opening("u.subjectKind")
                .shipping(
                        Shipped.of("waiting", "Plans waiting", "", "state:any:WAITING"),
                        Shipped.of(
                                "by-reason",
                                "Undone this year by reason",
                                "reason:count",
                                "date:in:this-year",
                                "state:none:ABANDONED"),
                        Shipped.of(
                                "by-month", "Undone by month, amounts", "date.month:amount", "state:none:ABANDONED"));
    }
}
