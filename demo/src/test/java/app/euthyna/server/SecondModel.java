package app.euthyna.server;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Sections 1, 7 and 8 in the plainest form: figures in maps, nothing clever. */
final class SecondModel {

    private static final BigDecimal ZERO = BigDecimal.ZERO;

    final Map<String, BigDecimal> roles = new TreeMap<>();
    final Map<String, BigDecimal> onHand = new TreeMap<>();
    final Map<String, BigDecimal> value = new TreeMap<>();
    final Map<String, List<Line>> orders = new LinkedHashMap<>();
    final Map<String, Map<Integer, BigDecimal>> staged = new LinkedHashMap<>();
    final Map<String, String> orderOf = new TreeMap<>();
    final Map<String, BigDecimal> open = new LinkedHashMap<>();
    final Map<String, List<String>> invoicesOf = new TreeMap<>();
    final List<Deposit> deposits = new ArrayList<>();
    final Map<String, BigDecimal> credit = new LinkedHashMap<>();
    final Map<String, Payment> payments = new LinkedHashMap<>();
    final Map<String, Refund> refunds = new LinkedHashMap<>();
    final Map<String, Bill> bills = new LinkedHashMap<>();
    final Map<String, Reduced> writeOffs = new LinkedHashMap<>();
    final Map<String, Credited> credits = new LinkedHashMap<>();

    static final class Line {
        String item;
        BigDecimal quantity;
        BigDecimal price;
        BigDecimal rate;
        BigDecimal cancelled = ZERO;
        BigDecimal dispatched = ZERO;
        BigDecimal billed = ZERO;
        final List<Sliced> gone = new ArrayList<>();
        final List<Sliced> bills = new ArrayList<>();

        BigDecimal ahead() {
            return bills.stream().map(Sliced::left).reduce(ZERO, BigDecimal::add);
        }

        BigDecimal toShip() {
            return quantity.subtract(cancelled).subtract(dispatched);
        }

        BigDecimal toBill() {
            return gone.stream().map(Sliced::left).reduce(ZERO, BigDecimal::add);
        }
    }

    /** An amount that is taken part by part with its quantity: cost of what left, revenue of what was billed. */
    static final class Sliced {
        final BigDecimal quantity;
        final BigDecimal amount;
        BigDecimal taken = ZERO;
        BigDecimal takenAmount = ZERO;

        Sliced(BigDecimal quantity, BigDecimal amount) {
            this.quantity = quantity;
            this.amount = amount;
        }

        BigDecimal left() {
            return quantity.subtract(taken);
        }

        BigDecimal take(BigDecimal more) {
            var slice = share(amount, taken.add(more), quantity).subtract(takenAmount);
            taken = taken.add(more);
            takenAmount = takenAmount.add(slice);
            return slice;
        }
    }

    static final class Deposit {
        String number;
        String order;
        BigDecimal amount;
        BigDecimal left;
        final Map<String, BigDecimal> applied = new TreeMap<>();
    }

    /** A payment, and what it settled when it came, with its discount. */
    record Payment(BigDecimal amount, String invoice, BigDecimal settled, Reduced discount) {}

    /** What an invoice came to, and what of it was settled without money. */
    static final class Bill {
        BigDecimal net;
        BigDecimal gross;
        final Map<BigDecimal, BigDecimal> vat = new TreeMap<>();
        final List<Reduced> reduced = new ArrayList<>();
        final List<Sliced> slices = new ArrayList<>();
        boolean credited;

        BigDecimal withVat() {
            return reduced.stream()
                    .filter(one -> one.bearsVat)
                    .map(one -> one.amount)
                    .reduce(ZERO, BigDecimal::add);
        }

        boolean isDiscounted() {
            return reduced.stream().anyMatch(one -> one.role.equals("sales_discounts"));
        }

        boolean isWrittenOff() {
            return reduced.stream().anyMatch(one -> !one.role.equals("sales_discounts"));
        }
    }

    /** An amount that need not be paid, with the VAT of it. */
    static final class Reduced {
        String invoice;
        String role;
        BigDecimal amount;
        boolean bearsVat;
        final Map<BigDecimal, BigDecimal> tax = new TreeMap<>();

        BigDecimal allTax() {
            return tax.values().stream().reduce(ZERO, BigDecimal::add);
        }
    }

    /** A credit note for all of an invoice, and what of it settled that. */
    record Credited(String invoice, BigDecimal net, BigDecimal vat, Reduced discount, BigDecimal settled) {
        BigDecimal gross() {
            return net.add(vat).subtract(discount == null ? ZERO : discount.amount);
        }
    }

    /** Nothing that an invoice bills is still to leave. */
    boolean allGone(String invoice) {
        return bills.get(invoice).slices.stream().allMatch(one -> one.left().signum() == 0);
    }

    /** Section 16: VAT by rate in the proportion of the amount, cumulated, less what was taken of it. */
    Reduced reduce(String invoice, String role, BigDecimal amount, boolean bearsVat) {
        var bill = bills.get(invoice);
        var one = new Reduced();
        one.invoice = invoice;
        one.role = role;
        one.amount = amount;
        one.bearsVat = bearsVat;
        if (bearsVat) {
            bill.vat.forEach((rate, of) -> {
                var taken = bill.reduced.stream()
                        .map(before -> before.tax.getOrDefault(rate, ZERO))
                        .reduce(ZERO, BigDecimal::add);
                one.tax.put(
                        rate,
                        share(of, bill.withVat().add(amount), bill.gross)
                                .subtract(taken)
                                .max(ZERO));
            });
        }
        bill.reduced.add(one);
        open.merge(invoice, amount.negate(), BigDecimal::add);
        post(one, 1);
        return one;
    }

    void post(Reduced one, int sign) {
        var by = BigDecimal.valueOf(sign);
        post(one.role, one.amount.subtract(one.allTax()).multiply(by));
        post("output_vat", one.allTax().multiply(by));
        post("receivables", one.amount.negate().multiply(by));
    }

    void unreduce(Reduced one) {
        bills.get(one.invoice).reduced.remove(one);
        open.merge(one.invoice, one.amount, BigDecimal::add);
        post(one, -1);
    }

    /** All of an invoice, less its discount. */
    Credited credit(String number, String invoice) {
        var bill = bills.get(invoice);
        var discount = bill.reduced.stream()
                .filter(one -> one.role.equals("sales_discounts"))
                .findFirst()
                .orElse(null);
        var gross = bill.gross.subtract(discount == null ? ZERO : discount.amount);
        var credited =
                new Credited(invoice, bill.net, bill.gross.subtract(bill.net), discount, gross.min(open.get(invoice)));
        bill.credited = true;
        credits.put(number, credited);
        post(credited, 1);
        credit.put(number, gross.subtract(credited.settled()));
        open.merge(invoice, credited.settled().negate(), BigDecimal::add);
        return credited;
    }

    void post(Credited one, int sign) {
        var by = BigDecimal.valueOf(sign);
        var tax = one.discount() == null ? ZERO : one.discount().allTax();
        var less = one.discount() == null ? ZERO : one.discount().amount.subtract(tax);
        post("sales_returns", one.net().multiply(by));
        post("sales_discounts", less.negate().multiply(by));
        post("output_vat", one.vat().subtract(tax).multiply(by));
        post("receivables", one.settled().negate().multiply(by));
        post("customer_credit", one.settled().subtract(one.gross()).multiply(by));
    }

    /** Money that went back, of a payment. */
    record Refund(String payment, BigDecimal amount) {}

    static BigDecimal share(BigDecimal whole, BigDecimal part, BigDecimal of) {
        return whole.multiply(part).divide(of, 2, RoundingMode.HALF_UP);
    }

    void post(String role, BigDecimal amount) {
        roles.merge(role, amount, BigDecimal::add);
    }

    void stockIn(String item, BigDecimal quantity, BigDecimal cost) {
        var worth = quantity.multiply(cost).setScale(2, RoundingMode.HALF_UP);
        onHand.merge(item, quantity, BigDecimal::add);
        value.merge(item, worth, BigDecimal::add);
        post("inventory", worth);
        post("stock_clearing", worth.negate());
    }

    void depart(String note) {
        staged.remove(note).forEach((no, quantity) -> {
            var line = orders.get(orderOf.get(note)).get(no - 1);
            var gone = new Sliced(
                    quantity,
                    quantity.compareTo(onHand.get(line.item)) == 0
                            ? value.get(line.item)
                            : share(value.get(line.item), quantity, onHand.get(line.item)));
            onHand.merge(line.item, quantity.negate(), BigDecimal::add);
            value.merge(line.item, gone.amount.negate(), BigDecimal::add);
            line.dispatched = line.dispatched.add(quantity);
            line.gone.add(gone);
            post("inventory", gone.amount.negate());
            post("goods_out", gone.amount);
            for (var bill : line.bills) {
                var now = gone.left().min(bill.left());
                if (now.signum() > 0) {
                    var cost = gone.take(now);
                    post("goods_out", cost.negate());
                    post("cogs", cost);
                    var earned = bill.take(now);
                    post("deferred_revenue", earned);
                    post("revenue", earned.negate());
                }
            }
        });
    }

    void bill(String order, String invoice, Map<Integer, BigDecimal> shares) {
        var byRate = new TreeMap<BigDecimal, BigDecimal>();
        var slices = new ArrayList<Sliced>();
        var net = ZERO;
        for (var share : shares.entrySet()) {
            var line = orders.get(order).get(share.getKey() - 1);
            var bill = new Sliced(
                    share.getValue(), share.getValue().multiply(line.price).setScale(2, RoundingMode.HALF_UP));
            for (var gone : line.gone) {
                var now = bill.left().min(gone.left());
                if (now.signum() > 0) {
                    var cost = gone.take(now);
                    post("goods_out", cost.negate());
                    post("cogs", cost);
                    bill.take(now);
                }
            }
            post("revenue", bill.takenAmount.negate());
            post("deferred_revenue", bill.takenAmount.subtract(bill.amount));
            line.bills.add(bill);
            slices.add(bill);
            line.billed = line.billed.add(bill.quantity);
            byRate.merge(line.rate, bill.amount, BigDecimal::add);
            net = net.add(bill.amount);
        }
        var vat = byRate.entrySet().stream()
                .map(band -> share(band.getValue(), band.getKey(), BigDecimal.valueOf(100)))
                .reduce(ZERO, BigDecimal::add);
        post("output_vat", vat.negate());
        post("receivables", net.add(vat));
        open.put(invoice, net.add(vat));
        var whole = new Bill();
        whole.net = net;
        whole.gross = net.add(vat);
        whole.slices.addAll(slices);
        byRate.forEach((rate, of) -> whole.vat.put(rate, share(of, rate, BigDecimal.valueOf(100))));
        bills.put(invoice, whole);
        invoicesOf.computeIfAbsent(order, o -> new ArrayList<>()).add(invoice);
        apply(order);
    }

    void apply(String order) {
        for (var deposit : deposits) {
            if (deposit.order.equals(order)) {
                for (var invoice : invoicesOf.getOrDefault(order, List.of())) {
                    var now = deposit.left.min(open.get(invoice));
                    deposit.left = deposit.left.subtract(now);
                    deposit.applied.merge(invoice, now, BigDecimal::add);
                    open.merge(invoice, now.negate(), BigDecimal::add);
                    post("deposits", now);
                    post("receivables", now.negate());
                }
            }
        }
    }

    void deposit(String number, String order, BigDecimal amount) {
        var deposit = new Deposit();
        deposit.number = number;
        deposit.order = order;
        deposit.amount = amount;
        deposit.left = amount;
        deposits.add(deposit);
        post("bank", amount);
        post("deposits", amount.negate());
        apply(order);
    }

    void pay(String number, BigDecimal amount, String invoice, BigDecimal settled) {
        post("bank", amount);
        post("receivables", settled.negate());
        post("customer_credit", settled.subtract(amount));
        credit.put(number, amount.subtract(settled));
        payments.put(number, new Payment(amount, invoice, settled, null));
        if (invoice != null) {
            open.merge(invoice, settled.negate(), BigDecimal::add);
        }
    }
}
