package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;

/** An order as it is shown. */
public record OrderView(String number, OrderKind kind, OrderState state, String customer, String customerName, String po, String site,
        LocalDate orderedOn, LocalDate requestedOn, String remark, String author, String lastEditor, BigDecimal net, BigDecimal vat,
        BigDecimal gross, List<BandView> vatBands, List<LineView> lines, List<MissingView> missing, long version) {

    /** VAT of one category and rate. */
    public record BandView(String category, BigDecimal rate, BigDecimal taxable, BigDecimal tax) {
    }

    /** A line with what it comes to. */
    public record LineView(int no, String kind, String item, String description, BigDecimal quantity, BigDecimal price,
            BigDecimal discount, BigDecimal net, String vatCategory, BigDecimal vatRate, LocalDate requestedOn) {
    }

    /** A mandatory entry that keeps the order a draft. */
    public record MissingView(String field, String expected) {
    }
}
