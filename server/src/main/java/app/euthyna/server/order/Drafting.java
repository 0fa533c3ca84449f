package app.euthyna.server.order;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.PriceList;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.PriceBreaks;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Orders as drafts describe them, completed from what is known of customers, items and the company's rules. */
@Component
class Drafting {

    private final MasterData masterData;
    private final Company company;
    private final CompanyRulesStore rules;
    private final PriceBreaks prices;

    Drafting(MasterData masterData, Company company, CompanyRulesStore rules, PriceBreaks prices) {
        this.masterData = masterData;
        this.company = company;
        this.rules = rules;
        this.prices = prices;
    }

    /** An order as a draft describes it, completed from customer, items and rules. */
    Order build(CommandContext context, OrderDraft draft, String number, Customer customer, long sequence) {
        var orderedOn = or(draft.orderedOn(), context.date());
        var requestedOn = or(draft.requestedOn(), context.today());
        var header = new Order(
                number,
                sequence,
                or(draft.kind(), OrderKind.STANDARD),
                OrderState.DRAFT,
                customer.code(),
                or(draft.po(), "").strip(),
                or(draft.site(), masterData.defaultSite()),
                orderedOn,
                requestedOn,
                or(draft.remark(), ""),
                context.person().username(),
                context.person().username(),
                Set.of(),
                company.currency(),
                details(
                        draft.details(),
                        new Details("", rules.inForce().entry().standardUnit(), ShipTo.CUSTOMER, Map.of(), "")),
                List.of());
        return header.withLines(lines(draft, customer, header, OptionalInt.empty()));
    }

    /**
     * Details as they are written, completed from those there are; refused where the company does not know a field or
     * its value.
     */
    Details details(Details written, Details otherwise) {
        if (written == null) {
            return otherwise;
        }
        var fields = new HashMap<>(written.fields());
        fields.values().removeIf(String::isEmpty);
        var details = new Details(
                written.externalReference().strip(),
                or(written.revenueUnit(), otherwise.revenueUnit()),
                written.shipTo(),
                fields,
                written.replaces());
        var bad = rules.inForce().entry().bad(details);
        if (!bad.isEmpty() && !details.equals(otherwise)) {
            throw new RefusedException(new CommonRefusal.Incomplete(bad));
        }
        return details;
    }

    /**
     * Lines as they are written, completed from the items; lines that exist keep their price and VAT unless the draft
     * says otherwise.
     *
     * @param lastLine the number of the last line that an order had that exists; empty for a new one
     */
    List<OrderLine> lines(OrderDraft draft, Customer customer, Order header, OptionalInt lastLine) {
        var items = masterData.items(draft.lines().stream()
                .map(OrderDraft.Line::item)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet()));
        var breaks = prices.of(items.keySet(), customer.code());
        var next = lastLine.orElse(0) + 1;
        var refusals = new ArrayList<Refusal>();
        var lines = new ArrayList<OrderLine>();
        for (var written : draft.lines()) {
            var no = written.no() == null ? next++ : written.no();
            var before = header.hasLine(no) ? header.line(no) : null;
            if (written.no() != null && before == null && lastLine.isPresent()) {
                refusals.add(new CommonRefusal.NotFound("line", written.no() + " on order " + header.number()));
                continue;
            }
            if (written.isWithoutItem()) {
                lines.add(new OrderLine(
                        no,
                        written.kind(),
                        "",
                        or(written.text(), before == null ? "" : before.description()),
                        Quantity.ZERO,
                        new Price(BigDecimal.ZERO, BigDecimal.ZERO),
                        Vat.of(Vat.Category.Z, "0"),
                        header.requestedOn(),
                        "",
                        Shortage.WAIT));
                continue;
            }
            var code = written.item() == null && before != null ? before.item() : written.item();
            var item = before != null && before.item().equals(code) ? null : items.get(code);
            if (code == null || code.isBlank()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + no + "].item", "the code of an item"));
                continue;
            }
            if (item == null && (before == null || !before.item().equals(code))) {
                refusals.add(new CommonRefusal.NotFound("item", code));
                continue;
            }
            if (written.site() != null && !written.site().isEmpty() && !masterData.hasSite(written.site())) {
                refusals.add(new CommonRefusal.NotFound("store", written.site()));
                continue;
            }
            line(no, written, before, item, breaks.getOrDefault(code, List.of()), customer, header, refusals)
                    .ifPresent(lines::add);
        }
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        return lines;
    }

    private static Optional<OrderLine> line(
            int no,
            OrderDraft.Line written,
            OrderLine before,
            Item item,
            List<PriceList.Break> breaks,
            Customer customer,
            Order header,
            List<Refusal> refusals) {
        var quantity = or(
                written.quantity(),
                before == null ? BigDecimal.ZERO : before.quantity().value());
        var price = or(
                written.price(),
                item == null
                        ? before.price().unit()
                        : PriceList.price(
                                item.price(),
                                breaks,
                                customer.code(),
                                new Quantity(
                                        quantity.max(BigDecimal.ZERO).setScale(Quantity.DECIMALS, RoundingMode.DOWN))));
        var discount = or(written.discount(), item == null ? before.price().discountPercent() : BigDecimal.ZERO);
        var malformed = malformed("lines[" + no + "].", quantity, price, discount);
        if (!malformed.isEmpty()) {
            refusals.addAll(malformed);
            return Optional.empty();
        }
        var terms = new Price(price, discount);
        var wanted = or(written.requestedOn(), before == null ? header.requestedOn() : before.requestedOn());
        var site = or(written.site(), before == null ? "" : before.site());
        var from = site.equals(header.site()) ? "" : site;
        var shortage = or(written.shortage(), before == null ? Shortage.WAIT : before.shortage());
        return Optional.of(
                item == null
                        ? new OrderLine(
                                no,
                                before.kind(),
                                before.item(),
                                before.description(),
                                new Quantity(quantity),
                                terms,
                                before.vat(),
                                wanted,
                                from,
                                shortage)
                        : new OrderLine(
                                no,
                                item.kind(),
                                item.code(),
                                item.name(),
                                new Quantity(quantity),
                                terms,
                                item.kind() == LineKind.TEXT
                                        ? item.vat()
                                        : customer.vatTreatment().apply(item.vat()),
                                wanted,
                                from,
                                shortage));
    }

    private static List<Refusal> malformed(String where, BigDecimal quantity, BigDecimal price, BigDecimal discount) {
        var refusals = new ArrayList<Refusal>();
        if (quantity.signum() < 0
                || decimals(quantity) > Quantity.DECIMALS
                || quantity.precision() - quantity.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "quantity", "zero or more, with at most 3 decimals"));
        }
        if (price.signum() < 0 || decimals(price) > Price.DECIMALS || price.precision() - price.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "price", "zero or more, with at most 4 decimals"));
        }
        if (discount.signum() < 0
                || discount.compareTo(BigDecimal.valueOf(100)) > 0
                || decimals(discount) > Price.DECIMALS) {
            refusals.add(CommonRefusal.Incomplete.of(where + "discount", "a percentage between 0 and 100"));
        }
        return refusals;
    }

    private static int decimals(BigDecimal value) {
        return Math.max(0, value.stripTrailingZeros().scale());
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
