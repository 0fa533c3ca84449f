package app.euthyna.server.order;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/** An order as it is shown. */
public record OrderView(
        String number,
        OrderKind kind,
        OrderState state,
        String customer,
        String customerName,
        String po,
        String site,
        LocalDate orderedOn,
        LocalDate requestedOn,
        String remark,
        DetailsView details,
        String author,
        String lastEditor,
        BigDecimal net,
        BigDecimal vat,
        BigDecimal gross,
        List<BandView> vatBands,
        List<LineView> lines,
        List<MissingView> missing,
        long version) {

    /** VAT of one category and rate. */
    public record BandView(String category, BigDecimal rate, BigDecimal taxable, BigDecimal tax) {}

    /** What an order says beside its lines; a replacement names the return or dispatch that it replaces. */
    public record DetailsView(
            String externalReference,
            String revenueUnit,
            @Nullable ShipToView shipTo,
            Map<String, String> fields,
            String replaces) {

        static DetailsView of(Details details) {
            var to = details.shipTo();
            return new DetailsView(
                    details.externalReference(),
                    details.revenueUnit(),
                    to.isOwn() ? new ShipToView(to.name(), to.street(), to.postcode(), to.town(), to.country()) : null,
                    details.fields(),
                    details.replaces());
        }
    }

    /** Where the goods of this order alone go; the country by ISO 3166. */
    public record ShipToView(String name, String street, String postcode, String town, String country) {}

    /**
     * A line with what it comes to: of a subtotal, the lines since the last one.
     *
     * @param site the store it ships from, or empty where that is the order's
     */
    public record LineView(
            int no,
            String kind,
            String item,
            String description,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            BigDecimal net,
            String vatCategory,
            BigDecimal vatRate,
            LocalDate requestedOn,
            String site,
            Shortage shortage,
            @Nullable SourceView source) {}

    /** The line of an earlier document that a line was taken from. */
    public record SourceView(String kind, String number, int line) {}

    OrderView with(Map<Integer, SourceView> sources) {
        return new OrderView(
                number,
                kind,
                state,
                customer,
                customerName,
                po,
                site,
                orderedOn,
                requestedOn,
                remark,
                details,
                author,
                lastEditor,
                net,
                vat,
                gross,
                vatBands,
                lines.stream()
                        .map(l -> new LineView(
                                l.no(),
                                l.kind(),
                                l.item(),
                                l.description(),
                                l.quantity(),
                                l.price(),
                                l.discount(),
                                l.net(),
                                l.vatCategory(),
                                l.vatRate(),
                                l.requestedOn(),
                                l.site(),
                                l.shortage(),
                                sources.get(l.no())))
                        .toList(),
                missing,
                version);
    }

    /** A mandatory entry that keeps the order a draft. */
    public record MissingView(String field, String expected) {}
}
