package app.euthyna.server;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Stream;

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
        BigDecimal returnedUnbilled = ZERO;
        final List<Billed> bills = new ArrayList<>();

        BigDecimal ahead() {
            return sum(bills.stream().map(bill -> bill.ahead.left()));
        }

        BigDecimal toBillAhead() {
            return quantity.subtract(cancelled).subtract(returnedUnbilled).subtract(billed);
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
        String note;
        int lineNo;
        BigDecimal back = ZERO;
        BigDecimal taken = ZERO;
        BigDecimal takenAmount = ZERO;

        Sliced(BigDecimal quantity, BigDecimal amount) {
            this.quantity = quantity;
            this.amount = amount;
        }

        BigDecimal left() {
            return quantity.subtract(taken);
        }

        BigDecimal out() {
            return quantity.subtract(back);
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

    /** What an invoice came to, what of it was credited, and what was settled without money. */
    static final class Bill {
        BigDecimal gross;
        final List<Billed> lines = new ArrayList<>();
        final Map<BigDecimal, Band> bands = new TreeMap<>();
        final List<Reduced> reduced = new ArrayList<>();
        final List<Credited> credits = new ArrayList<>();

        BigDecimal withVat() {
            return sum(reduced.stream().filter(one -> one.bearsVat).map(one -> one.amount));
        }

        /** The gross less what is credited. */
        BigDecimal left() {
            return gross.subtract(sum(credits.stream().map(Credited::gross)));
        }

        Reduced discount() {
            return reduced.stream()
                    .filter(one -> one.role.equals("sales_discounts"))
                    .findFirst()
                    .orElse(null);
        }

        boolean isWrittenOff() {
            return reduced.stream().anyMatch(one -> !one.role.equals("sales_discounts"));
        }

        boolean isAllCredited() {
            return lines.stream().allMatch(line -> line.toCredit().signum() == 0);
        }
    }

    /** A line of an invoice: what is billed, what of it is credited, and from which goods it came. */
    static final class Billed {
        int no;
        BigDecimal price;
        BigDecimal rate;
        BigDecimal net;
        Sliced ahead;
        BigDecimal credited = ZERO;
        BigDecimal creditedNet = ZERO;
        final List<Source> sources = new ArrayList<>();

        BigDecimal toCredit() {
            return ahead.quantity.subtract(credited);
        }
    }

    /** Goods of a dispatch line on a line of an invoice, and what of them came back. */
    static final class Source {
        Sliced gone;
        BigDecimal quantity;
        BigDecimal cost;
        BigDecimal back = ZERO;
        BigDecimal backCost = ZERO;
    }

    /** One rate of VAT of an invoice: billed; credited; what of the credits was withheld for a discount. */
    static final class Band {
        BigDecimal net = ZERO;
        BigDecimal vat = ZERO;
        BigDecimal creditedNet = ZERO;
        BigDecimal creditedVat = ZERO;
        BigDecimal withheldNet = ZERO;
        BigDecimal withheldVat = ZERO;

        BigDecimal leftNet() {
            return net.subtract(creditedNet).add(withheldNet);
        }

        BigDecimal leftVat() {
            return vat.subtract(creditedVat).add(withheldVat);
        }
    }

    /** An amount that need not be paid, by rate: its net, its VAT, and what was left of the rate's net when it came. */
    static final class Reduced {
        String invoice;
        String role;
        BigDecimal amount;
        boolean bearsVat;
        final Map<BigDecimal, BigDecimal> base = new TreeMap<>();
        final Map<BigDecimal, BigDecimal> net = new TreeMap<>();
        final Map<BigDecimal, BigDecimal> tax = new TreeMap<>();

        BigDecimal allTax() {
            return sum(tax.values().stream());
        }
    }

    /** What of one rate is on a credit note, and what of it is withheld for a discount. */
    record Credit(BigDecimal net, BigDecimal vat, BigDecimal withheldNet, BigDecimal withheldVat) {}

    /**
     * A credit note: by line the quantity and its net, by rate what it comes to; and what of it settled its invoice.
     */
    record Credited(
            String invoice,
            Map<Billed, BigDecimal> quantities,
            Map<Billed, BigDecimal> nets,
            Map<BigDecimal, Credit> bands,
            BigDecimal settled,
            boolean ofReturn) {
        BigDecimal net() {
            return sum(bands.values().stream().map(Credit::net));
        }

        BigDecimal vat() {
            return sum(bands.values().stream().map(Credit::vat)).subtract(withheldVat());
        }

        BigDecimal withheldNet() {
            return sum(bands.values().stream().map(Credit::withheldNet));
        }

        BigDecimal withheldVat() {
            return sum(bands.values().stream().map(Credit::withheldVat));
        }

        BigDecimal gross() {
            return net().add(vat()).subtract(withheldNet());
        }
    }

    static BigDecimal sum(Stream<BigDecimal> amounts) {
        return amounts.reduce(ZERO, BigDecimal::add);
    }

    /** Nothing that an invoice bills is still to leave. */
    boolean allGone(String invoice) {
        return bills.get(invoice).lines.stream()
                .allMatch(line -> line.ahead.left().signum() == 0);
    }

    /** Section 16: by rate in the proportion of the amount to what is left, cumulated, less what was taken of it. */
    Reduced reduce(String invoice, String role, BigDecimal amount, boolean bearsVat) {
        var bill = bills.get(invoice);
        var one = new Reduced();
        one.invoice = invoice;
        one.role = role;
        one.amount = amount;
        one.bearsVat = bearsVat;
        var left = bill.left();
        if (bearsVat && left.signum() > 0) {
            var together = bill.withVat().add(amount).min(left);
            var rest = amount;
            for (var band : bill.bands.entrySet()) {
                var tax = slice(band.getValue().leftVat(), together, left, taken(bill, band.getKey(), r -> r.tax))
                        .min(rest);
                one.tax.put(band.getKey(), tax);
                one.base.put(band.getKey(), band.getValue().leftNet());
                rest = rest.subtract(tax);
            }
            var at = bill.bands.size();
            for (var band : bill.bands.entrySet()) {
                var net = --at == 0
                        ? rest
                        : slice(band.getValue().leftNet(), together, left, taken(bill, band.getKey(), r -> r.net))
                                .min(rest);
                one.net.put(band.getKey(), net);
                rest = rest.subtract(net);
            }
        }
        bill.reduced.add(one);
        open.merge(invoice, amount.negate(), BigDecimal::add);
        post(one, 1);
        return one;
    }

    private static BigDecimal taken(
            Bill bill, BigDecimal rate, Function<Reduced, Map<BigDecimal, BigDecimal>> amounts) {
        return sum(bill.reduced.stream().map(one -> amounts.apply(one).getOrDefault(rate, ZERO)));
    }

    private static BigDecimal slice(BigDecimal whole, BigDecimal part, BigDecimal of, BigDecimal taken) {
        return of.signum() == 0 ? ZERO : share(whole, part, of).subtract(taken).max(ZERO);
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

    /** What a credit of so much of an invoice's lines would come to. */
    Credited toCredit(String invoice, Map<Billed, BigDecimal> quantities, boolean ofReturn) {
        var bill = bills.get(invoice);
        var nets = new LinkedHashMap<Billed, BigDecimal>();
        var byRate = new TreeMap<BigDecimal, BigDecimal>();
        quantities.forEach((line, quantity) -> {
            var net = line.credited
                    .add(quantity)
                    .multiply(line.price)
                    .setScale(2, RoundingMode.HALF_UP)
                    .subtract(line.creditedNet)
                    .max(ZERO)
                    .min(line.net.subtract(line.creditedNet));
            nets.put(line, net);
            byRate.merge(line.rate, net, BigDecimal::add);
        });
        var bands = new TreeMap<BigDecimal, Credit>();
        byRate.forEach((rate, net) -> {
            var band = bill.bands.get(rate);
            var all = band.creditedNet.add(net);
            var vat = slice(all, rate, BigDecimal.valueOf(100), band.creditedVat);
            var discount = bill.discount();
            var base = discount == null ? ZERO : discount.base.getOrDefault(rate, ZERO);
            var since = all.subtract(band.net.subtract(base)).max(ZERO).min(base);
            bands.put(
                    rate,
                    discount == null
                            ? new Credit(net, vat, ZERO, ZERO)
                            : new Credit(
                                    net,
                                    vat,
                                    slice(discount.net.get(rate), since, base, band.withheldNet)
                                            .min(net),
                                    slice(discount.tax.get(rate), since, base, band.withheldVat)
                                            .min(vat)));
        });
        var credited = new Credited(invoice, quantities, nets, bands, ZERO, ofReturn);
        return new Credited(invoice, quantities, nets, bands, credited.gross().min(open.get(invoice)), ofReturn);
    }

    void credit(String number, Credited credited) {
        credits.put(number, credited);
        bills.get(credited.invoice()).credits.add(credited);
        count(credited, 1);
        credit.put(number, credited.gross().subtract(credited.settled()));
    }

    void uncredit(String number) {
        var credited = credits.remove(number);
        bills.get(credited.invoice()).credits.remove(credited);
        count(credited, -1);
        credit.remove(number);
    }

    private void count(Credited one, int sign) {
        var by = BigDecimal.valueOf(sign);
        one.quantities().forEach((line, quantity) -> line.credited = line.credited.add(quantity.multiply(by)));
        one.nets().forEach((line, net) -> line.creditedNet = line.creditedNet.add(net.multiply(by)));
        one.bands().forEach((rate, of) -> {
            var band = bills.get(one.invoice()).bands.get(rate);
            band.creditedNet = band.creditedNet.add(of.net().multiply(by));
            band.creditedVat = band.creditedVat.add(of.vat().multiply(by));
            band.withheldNet = band.withheldNet.add(of.withheldNet().multiply(by));
            band.withheldVat = band.withheldVat.add(of.withheldVat().multiply(by));
        });
        open.merge(one.invoice(), one.settled().negate().multiply(by), BigDecimal::add);
        post("sales_returns", one.net().multiply(by));
        post("sales_discounts", one.withheldNet().negate().multiply(by));
        post("output_vat", one.vat().multiply(by));
        post("receivables", one.settled().negate().multiply(by));
        post("customer_credit", one.settled().subtract(one.gross()).multiply(by));
    }

    /** Section 10: goods of a dispatch line come back, what was not billed first, then the oldest invoice's. */
    Map<Billed, BigDecimal> comeBack(Sliced gone, BigDecimal quantity) {
        gone.back = gone.back.add(quantity);
        var unbilled = gone.left().min(quantity);
        if (unbilled.signum() > 0) {
            orders.values().stream()
                    .flatMap(List::stream)
                    .filter(line -> line.gone.contains(gone))
                    .forEach(line -> line.returnedUnbilled = line.returnedUnbilled.add(unbilled));
            var cost = gone.take(unbilled);
            post("goods_in_inspection", cost);
            post("goods_out", cost.negate());
        }
        var left = quantity.subtract(unbilled);
        var billed = new LinkedHashMap<Billed, BigDecimal>();
        for (var bill : bills.values()) {
            for (var line : bill.lines) {
                for (var source : line.sources) {
                    var now = source.gone == gone
                            ? source.quantity.subtract(source.back).min(left)
                            : ZERO;
                    if (now.signum() > 0) {
                        var cost = slice(source.cost, source.back.add(now), source.quantity, source.backCost);
                        source.back = source.back.add(now);
                        source.backCost = source.backCost.add(cost);
                        post("goods_in_inspection", cost);
                        post("cogs", cost.negate());
                        billed.merge(line, now, BigDecimal::add);
                        left = left.subtract(now);
                    }
                }
            }
        }
        return billed;
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
        var lines = new int[1];
        staged.remove(note).forEach((no, quantity) -> {
            var line = orders.get(orderOf.get(note)).get(no - 1);
            var gone = new Sliced(
                    quantity,
                    quantity.compareTo(onHand.get(line.item)) == 0
                            ? value.get(line.item)
                            : share(value.get(line.item), quantity, onHand.get(line.item)));
            gone.note = note;
            gone.lineNo = ++lines[0];
            onHand.merge(line.item, quantity.negate(), BigDecimal::add);
            value.merge(line.item, gone.amount.negate(), BigDecimal::add);
            line.dispatched = line.dispatched.add(quantity);
            line.gone.add(gone);
            post("inventory", gone.amount.negate());
            post("goods_out", gone.amount);
            for (var bill : line.bills) {
                var now = gone.left().min(bill.ahead.left());
                if (now.signum() > 0) {
                    source(bill, gone, now);
                    var earned = bill.ahead.take(now);
                    post("deferred_revenue", earned);
                    post("revenue", earned.negate());
                }
            }
        });
    }

    void bill(String order, String invoice, Map<Integer, BigDecimal> shares) {
        var whole = new Bill();
        for (var share : shares.entrySet()) {
            var line = orders.get(order).get(share.getKey() - 1);
            var bill = new Billed();
            bill.no = whole.lines.size() + 1;
            bill.price = line.price;
            bill.rate = line.rate;
            bill.net = share.getValue().multiply(line.price).setScale(2, RoundingMode.HALF_UP);
            bill.ahead = new Sliced(share.getValue(), bill.net);
            for (var gone : line.gone) {
                var now = bill.ahead.left().min(gone.left());
                if (now.signum() > 0) {
                    source(bill, gone, now);
                    bill.ahead.take(now);
                }
            }
            post("revenue", bill.ahead.takenAmount.negate());
            post("deferred_revenue", bill.ahead.takenAmount.subtract(bill.net));
            line.bills.add(bill);
            whole.lines.add(bill);
            line.billed = line.billed.add(bill.ahead.quantity);
            var band = whole.bands.computeIfAbsent(line.rate, rate -> new Band());
            band.net = band.net.add(bill.net);
        }
        whole.bands.forEach((rate, band) -> band.vat = share(band.net, rate, BigDecimal.valueOf(100)));
        var vat = sum(whole.bands.values().stream().map(band -> band.vat));
        whole.gross = sum(whole.lines.stream().map(line -> line.net)).add(vat);
        post("output_vat", vat.negate());
        post("receivables", whole.gross);
        open.put(invoice, whole.gross);
        bills.put(invoice, whole);
        invoicesOf.computeIfAbsent(order, o -> new ArrayList<>()).add(invoice);
        apply(order);
    }

    private void source(Billed bill, Sliced gone, BigDecimal quantity) {
        var source = new Source();
        source.gone = gone;
        source.quantity = quantity;
        source.cost = gone.take(quantity);
        bill.sources.add(source);
        post("goods_out", source.cost.negate());
        post("cogs", source.cost);
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
