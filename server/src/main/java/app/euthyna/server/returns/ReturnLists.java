package app.euthyna.server.returns;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.lists.Registers;
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
    static DeclaredList creditNoteRegister() {
        return Registers.of(
                Register.CREDIT_NOTES,
                Reading.SELLING,
                "credit-note-register",
                "Register of credit notes",
                "credit note or reversal",
                "credit notes and reversals",
                "CreditNoteRegisterEntity",
                List.of(new Join("i", "left join InvoiceEntity i on i.id = r.invoiceId")),
                Column.number("number", "Credit note", "r.number", "CREDIT_NOTE"),
                MasterColumns.customer("r.customerId"),
                Column.number("invoice", "Invoice", "i.number", "INVOICE").with(Trait.SHOWN),
                Column.text("reason", "Reason", "r.reason"),
                Registers.amount("net", "Net"),
                Registers.amount("vat", "VAT"),
                Registers.amount("gross", "Gross"));
    }

    @Bean
    static DeclaredList returnsRegister() {
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
                        MasterColumns.customer("r.customerId"),
                        Column.choice("event", "What became of it", "r.event", ReturnsRegisterEntity.Event.class)
                                .with(Trait.SHOWN),
                        MasterColumns.item("r.itemId"),
                        Column.text("reason", "Reason", "r.reason"),
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
                    where dec.partId = p.id and dec.decidedOn <= :asOf), 0)
                + coalesce((select sum(bck.%1$s) from ReturnPartEntity bck
                    where bck.returnLineId = p.returnLineId and bck.partNo = - p.partNo
                    and bck.receivedOn <= :asOf), 0)""".formatted(figure);
    }

    @Bean
    static DeclaredList inInspection() {
        return new DeclaredList(
                        "in-inspection",
                        "Goods in inspection",
                        "receipt",
                        "receipts",
                        "ReturnPartEntity p join ReturnLineEntity l on l.id = p.returnLineId"
                                + " join ReturnEntity g on g.id = l.returnId",
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
                        "g.inspecting = true and p.partNo > 0 and %s <> 0".formatted(undecided("quantity")),
                        """
                        p.partNo > 0 and p.receivedOn <= :asOf and %s <> 0""".formatted(undecided("quantity")))
                .proving(Register.IN_INSPECTION, "asOf");
    }
}
