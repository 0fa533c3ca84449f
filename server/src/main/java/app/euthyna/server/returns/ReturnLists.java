package app.euthyna.server.returns;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Part;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.lists.Registers;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The registers of what came back and of what was credited, and what was in inspection at the end of a day. */
@Configuration(proxyBeanMethods = false)
class ReturnLists {

    @Bean
    static DeclaredList creditNotesList() {
        return new DeclaredList(
                        "credit-notes",
                        "Credit notes",
                        "credit note",
                        "credit notes",
                        "CreditNoteEntity k",
                        "k.id",
                        List.of(
                                new Join("i", "InvoiceEntity", "i.id = k.invoiceId"),
                                new Join("p", "PaymentEntity", "p.number = k.number")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Credit note", "k.number", "CREDIT_NOTE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("k.customerId"),
                                Column.number("invoice", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Date", "k.creditedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.text("reason", "Reason", "k.reason").with(Trait.SHOWN, Trait.GROUPED),
                                Column.amount("net", "Net", "k.net").with(Trait.SUMMED),
                                Column.amount("vat", "VAT", "k.vat").with(Trait.SUMMED),
                                Column.amount("gross", "Credited", "k.gross").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("left", "Left", "coalesce(p.leftAmount, 0)")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("hasLeft", "Customer credit is left", "p.leftAmount >= 0.0001bd"),
                                Column.flag("reversed", "Taken back", "k.reversedOn is not null"),
                                Column.day("reversedOn", "Taken back on", "k.reversedOn")))
                .shipping(
                        Shipped.of("left", "With customer credit", "customer:left", "hasLeft:any:YES"),
                        Shipped.of(
                                "by-customer",
                                "Credited this year by customer",
                                "customer:net",
                                "date:in:this-year",
                                "reversed:any:NO"));
    }

    private static Column reason(String path, CompanyRulesStore rules) {
        return Column.told(
                "reason",
                "Reason",
                path,
                () -> rules.inForce().returns().reasons(),
                ReturnPolicy.Reason::code,
                ReturnPolicy.Reason::words);
    }

    private static List<Column> returnColumns(CompanyRulesStore rules) {
        var parts = "ReturnPartEntity prt join ReturnLineEntity ret on ret.id = prt.returnLineId";
        return List.of(
                Column.number("number", "Return", "g.number", "RETURN").with(Trait.SHOWN),
                MasterColumns.customer("g.customerId"),
                Column.day("authorisedOn", "Authorised", "g.authorisedOn").with(Trait.SHOWN, Trait.SORTED),
                reason("g.reasonCode", rules).with(Trait.SHOWN),
                Column.quantity("authorised", "Authorised quantity", """
                                                (select sum(ret.authorised) from ReturnLineEntity ret
                                                where ret.returnId = g.id)""").with(Trait.SHOWN, Trait.SUMMED),
                Column.quantity(
                                "received",
                                "Received",
                                "coalesce((select sum(prt.quantity) from %s where ret.returnId = g.id), 0)"
                                        .formatted(parts))
                        .with(Trait.SHOWN, Trait.SUMMED),
                Column.day("receivedOn", "Received on", "g.receivedOn").with(Trait.SHOWN),
                Column.flag("expects", "Still expected", "g.expects = true"),
                Column.flag("inspecting", "To inspect", "g.inspecting = true"),
                Column.flag("withdrawn", "Withdrawn", "g.withdrawn = true"),
                Column.flag("toCredit", "To credit", "g.creditDue > 0"),
                Column.flag("isAhead", "Credited ahead", "g.creditedAhead > 0"),
                Column.amount("creditedAhead", "Credited ahead, cost", "g.creditedAhead")
                        .readBy(ReadBy.Group.COSTS)
                        .with(Trait.SUMMED),
                Column.amount("creditDue", "Credit due", "g.creditDue")
                        .readBy(ReadBy.Group.SELLING)
                        .with(Trait.SUMMED));
    }

    @Bean
    static DeclaredList returnsList(CompanyRulesStore rules) {
        return new DeclaredList(
                        "returns",
                        "Returns",
                        "return",
                        "returns",
                        "ReturnEntity g",
                        "g.id",
                        List.of(),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        returnColumns(rules))
                .shipping(
                        Shipped.of("expected", "Expected back", "", "expects:any:YES"),
                        Shipped.of(
                                "expected-customer",
                                "Expected back by customer",
                                "customer:authorised",
                                "expects:any:YES"),
                        Shipped.of("to-inspect", "To inspect", "", "inspecting:any:YES"),
                        new Shipped(
                                "to-credit",
                                "To credit",
                                List.of("toCredit:any:YES"),
                                "",
                                List.of("number", "customer", "reason", "authorisedOn", "receivedOn", "creditDue"),
                                ""),
                        Shipped.of("ahead", "Credited ahead", "", "isAhead:any:YES"),
                        Shipped.of("by-month", "Returns by month", "authorisedOn.month:count", "withdrawn:any:NO"),
                        Shipped.of("by-reason", "Returns by reason", "reason:count", "withdrawn:any:NO"));
    }

    /** @param what of the parts of a line, or of their outcomes behind {@code from} */
    private static String ofParts(String what, String from) {
        return "coalesce((select sum(%s) from ReturnPartEntity prt%s where prt.returnLineId = l.id), 0)"
                .formatted(what, from);
    }

    @Bean
    static DeclaredList returnLinesList(CompanyRulesStore rules) {
        var received = ofParts("prt.quantity", "");
        var decided = ofParts("out.quantity", " join ReturnOutcomeEntity out on out.partId = prt.id");
        return new DeclaredList(
                        "return-lines",
                        "Return lines",
                        "return line",
                        "return lines",
                        "ReturnLineEntity l",
                        "l.id",
                        List.of(
                                new Join("g", "ReturnEntity", "g.id = l.returnId"),
                                new Join("o", "OrderEntity", "o.id = l.rootOrderId"),
                                new Join("d", "DispatchEntity", "d.id = l.dispatchId"),
                                new Join("v", "InvoiceEntity", "v.id = l.invoiceId")),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Return", "g.number", "RETURN")
                                        .with(Trait.SHOWN),
                                Column.count("line", "Line", "l.lineNo").with(Trait.SHOWN),
                                MasterColumns.customer("g.customerId"),
                                MasterColumns.item("l.itemId"),
                                MasterColumns.site("l.siteId"),
                                Column.number("order", "Order", "o.number", "ORDER"),
                                Column.number("dispatch", "Dispatch", "d.number", "DISPATCH")
                                        .with(Trait.SHOWN),
                                Column.number("invoice", "Invoice", "v.number", "INVOICE")
                                        .readBy(ReadBy.Group.SELLING),
                                Column.day("authorisedOn", "Authorised", "g.authorisedOn")
                                        .with(Trait.SHOWN),
                                reason("g.reasonCode", rules).with(Trait.SHOWN),
                                Column.quantity("authorised", "Authorised quantity", "l.authorised")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("received", "Received", received)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("inInspection", "In inspection", "%s - %s".formatted(received, decided))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag(
                                        "expects", "Still expected", "g.expects = true and l.authorised > " + received),
                                Column.flag("withdrawn", "Withdrawn", "g.withdrawn = true")))
                .shipping(
                        Shipped.of("expected", "Expected back by item", "item:authorised", "expects:any:YES"),
                        Shipped.of("by-item", "Return lines by item", "item:count", "withdrawn:any:NO"));
    }

    @Bean
    static DeclaredList unexpectedGoodsList() {
        return new DeclaredList(
                        "unexpected-goods",
                        "Unexpected goods",
                        "arrival",
                        "arrivals",
                        "UnexpectedGoodsEntity u",
                        "u.id",
                        List.of(new Join("g", "ReturnEntity", "g.id = u.returnId")),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Number", "u.number", "UNEXPECTED_GOODS")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Came on", "u.cameOn").with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.customerIfAny("u.customerId"),
                                Column.text("sender", "Sender", "u.sender").with(Trait.SHOWN),
                                Column.number("return", "Return", "g.number", "RETURN"),
                                MasterColumns.item("u.itemId"),
                                MasterColumns.site("u.siteId"),
                                Column.quantity("quantity", "Quantity", "u.quantity")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("left", "To decide", "u.leftOver")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("isOpen", "To decide", "u.leftOver > 0"),
                                Column.text("takenBy", "Received by", "u.takenBy"),
                                Column.text("remark", "Remark", "u.remark")))
                .shipping(Shipped.of("open", "To decide", "", "isOpen:any:YES"));
    }

    @Bean
    static DeclaredList creditNoteRegisterList() {
        return Registers.of(
                Register.CREDIT_NOTES,
                Reading.SELLING,
                "credit-note-register",
                "Register of credit notes",
                "credit note or reversal",
                "credit notes and reversals",
                "CreditNoteRegisterEntity",
                List.of(new Join("i", "InvoiceEntity", "i.id = r.invoiceId")),
                Column.number("number", "Credit note", "r.number", "CREDIT_NOTE"),
                MasterColumns.customerIfAny("r.customerId"),
                Column.number("invoice", "Invoice", "i.number", "INVOICE").with(Trait.SHOWN),
                Column.text("reason", "Reason", "r.reason"),
                Registers.amount("net", "Net"),
                Registers.amount("vat", "VAT"),
                Registers.amount("gross", "Gross"));
    }

    @Bean
    static DeclaredList returnsRegisterList(CompanyRulesStore rules) {
        return Registers.of(
                        Register.RETURNS,
                        Reading.BUSINESS,
                        "returns-register",
                        "Register of returns",
                        "receipt or inspection",
                        "receipts and inspections",
                        "ReturnsRegisterEntity",
                        List.of(),
                        Column.number("number", "Return", "r.number", "RETURN"),
                        MasterColumns.customerIfAny("r.customerId"),
                        Column.choice("event", "What became of it", "r.event", ReturnsRegisterEntity.Event.class)
                                .with(Trait.SHOWN),
                        MasterColumns.item("r.itemId"),
                        reason("r.reason", rules),
                        Column.quantity("quantity", "In inspection", "r.quantity")
                                .with(Trait.SHOWN, Trait.SUMMED),
                        Registers.amount("cost", "Cost").readBy(ReadBy.Group.COSTS))
                .shipping(
                        Shipped.of(
                                "received",
                                "Received this year by month",
                                "enteredOn.month:quantity",
                                "enteredOn:in:this-year",
                                "event:any:RECEIVED"),
                        Shipped.of(
                                "by-item",
                                "Received this year by item",
                                "item:quantity",
                                "enteredOn:in:this-year",
                                "event:any:RECEIVED"));
    }

    /** Of what was received the part that is neither decided nor taken back. */
    private static String undecided(String figure) {
        return """
                p.%1$s - coalesce((select sum(dec.%1$s) from ReturnOutcomeEntity dec
                    where dec.partId = p.id and dec.decidedOn <= :day), 0)
                + coalesce((select sum(bck.%1$s) from ReturnPartEntity bck
                    where bck.returnLineId = p.returnLineId and bck.partNo = - p.partNo
                    and bck.receivedOn <= :day), 0)""".formatted(figure);
    }

    @Bean
    static DeclaredList inInspectionList() {
        return new DeclaredList(
                        "in-inspection",
                        "Goods in inspection",
                        "receipt",
                        "receipts",
                        "ReturnPartEntity p left join ReturnLineEntity l on l.id = p.returnLineId"
                                + " left join ReturnEntity g on g.id = l.returnId",
                        "p.id",
                        List.of(),
                        Reading.BUSINESS,
                        new Sorting(Optional.of("receivedOn"), false),
                        List.of(
                                Column.number("number", "Return", "g.number", "RETURN")
                                        .with(Trait.SHOWN),
                                Column.day("receivedOn", "Received", "p.receivedOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.customer("g.customerId"),
                                MasterColumns.item("l.itemId"),
                                Column.quantity("quantity", "In inspection", undecided("quantity"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("cost", "Cost", undecided("cost"))
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .within(
                        new Part(
                                "",
                                "g.inspecting = true and p.partNo > 0 and %s <> 0".formatted(undecided("quantity"))),
                        new Part(
                                "",
                                "p.partNo > 0 and p.receivedOn <= :day and %s <> 0".formatted(undecided("quantity"))))
                .proving(Register.IN_INSPECTION, "asOf");
    }
}
