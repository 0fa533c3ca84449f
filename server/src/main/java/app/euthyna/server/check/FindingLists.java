package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Finding;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The list of what checks found in orders, and how long it took to decide on it. */
@Configuration(proxyBeanMethods = false)
class FindingLists {

    @Bean
    static DeclaredList findingsList() {
        return new DeclaredList(
                        "findings",
                        "Findings and holds",
                        "finding",
                        "findings",
                        "FindingEntity f",
                        "f.id",
                        List.of(new DeclaredList.Join("o", "OrderEntity", "o.id = f.orderId")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("o.customerId"),
                                Column.words(
                                                "check",
                                                "Check",
                                                "f.checkCode",
                                                Stream.of(Check.values())
                                                        .map(Check::code)
                                                        .toArray(String[]::new))
                                        .with(Trait.SHOWN),
                                Column.words("severity", "Weighs as", "f.severity", "CAUTION", "STOP")
                                        .with(Trait.SHOWN),
                                Column.choice("state", "State", "f.state", Finding.State.class)
                                        .with(Trait.SHOWN),
                                Column.day("since", "Since", "f.since").with(Trait.SHOWN, Trait.SORTED),
                                Column.text("waivedBy", "Waived by", "f.waivedBy")
                                        .with(Trait.SHOWN, Trait.GROUPED),
                                Column.day("waivedOn", "Waived", "f.waivedOn"),
                                Column.count("days", "Days until waived", "timestampdiff(day, f.since, f.waivedOn)")
                                        .with(Trait.SHOWN, Trait.MEDIAN),
                                Column.text("why", "Why", "f.waiverReason"),
                                Column.text("brief", "What was found", "f.brief")))
                .shipping(
                        Shipped.of("open", "Open findings by customer", "customer:count", "state:any:OPEN"),
                        Shipped.of("holds", "Holds by month", "since.month:count", "severity:any:STOP"),
                        Shipped.of("waived", "Waived this month", "customer:count", "waivedOn:in:this-month"),
                        Shipped.of(
                                "hold-reasons",
                                "Reasons of holds, days until waived",
                                "check:days",
                                "severity:any:STOP"));
    }

    /** What was decided, in the words of the history; a decline is told by the state that it led to. */
    private static final String WHAT =
            "case when h.stateTo = 'DECLINED' then 'DECLINED' else upper(replace(h.event, '-', '_')) end";

    @Bean
    static DeclaredList decisionsList() {
        return new DeclaredList(
                        "decisions",
                        "Decisions",
                        "decision",
                        "decisions",
                        "HistoryEntity h",
                        "h.moment",
                        List.of(new DeclaredList.Join("o", "OrderEntity", "o.id = h.orderId")),
                        Reading.SELLING,
                        Sorting.by("date"),
                        List.of(
                                Column.number("number", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customerIfAny("o.customerId"),
                                Column.day("date", "Date", "h.decidedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.words(
                                                "what",
                                                "Decision",
                                                WHAT,
                                                "WAIVED",
                                                "APPROVED",
                                                "SENT_BACK",
                                                "RECALLED",
                                                "CANCELLED",
                                                "DECLINED")
                                        .with(Trait.SHOWN),
                                Column.text("by", "By", "h.byUser").with(Trait.SHOWN, Trait.GROUPED),
                                Column.text("sentence", "What was said", "h.sentence")
                                        .with(Trait.SHOWN)))
                // not "is not null": no index is read from there on
                .within("h.decidedOn >= {d '1900-01-01'}")
                .shipping(
                        Shipped.of("by-person", "Decided this month by person", "by:count", "date:in:this-month"),
                        Shipped.of("by-month", "Decisions by month", "date.month:count"));
    }
}
