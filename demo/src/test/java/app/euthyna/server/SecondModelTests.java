package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Random histories over REST beside a second, naive model of the domain reference that shares no code with the
 * application: after every step each account role, quantity and open amount must be the model's, to the cent.
 */
class SecondModelTests extends OnServer {

    private static final int HISTORIES = Integer.getInteger("model.histories", 4);
    private static final int STEPS = 40;
    private static final BigDecimal ZERO = BigDecimal.ZERO;

    private Random random;
    private String name;
    private final List<String> told = new ArrayList<>();

    /** Sections 1, 7 and 8 in the plainest form: figures in maps, nothing clever. */
    private static final class Model {

        private final Map<String, BigDecimal> roles = new TreeMap<>();
        private final Map<String, BigDecimal> onHand = new TreeMap<>();
        private final Map<String, BigDecimal> value = new TreeMap<>();
        private final Map<String, List<Line>> orders = new LinkedHashMap<>();
        private final Map<String, Map<Integer, BigDecimal>> staged = new LinkedHashMap<>();
        private final Map<String, String> orderOf = new TreeMap<>();
        private final Map<String, BigDecimal> open = new LinkedHashMap<>();
        private final Map<String, List<String>> invoicesOf = new TreeMap<>();
        private final List<Deposit> deposits = new ArrayList<>();
        private final Map<String, BigDecimal> credit = new LinkedHashMap<>();
        private final Map<String, Payment> payments = new LinkedHashMap<>();
        private final Map<String, Refund> refunds = new LinkedHashMap<>();

        private static final class Line {
            private String item;
            private BigDecimal quantity;
            private BigDecimal price;
            private BigDecimal rate;
            private BigDecimal cancelled = ZERO;
            private BigDecimal dispatched = ZERO;
            private BigDecimal billed = ZERO;
            private final List<Sliced> gone = new ArrayList<>();
            private final List<Sliced> bills = new ArrayList<>();

            private BigDecimal ahead() {
                return bills.stream().map(Sliced::left).reduce(ZERO, BigDecimal::add);
            }

            private BigDecimal toShip() {
                return quantity.subtract(cancelled).subtract(dispatched);
            }

            private BigDecimal toBill() {
                return gone.stream().map(Sliced::left).reduce(ZERO, BigDecimal::add);
            }
        }

        /** An amount that is taken part by part with its quantity: cost of what left, revenue of what was billed. */
        private static final class Sliced {
            private final BigDecimal quantity;
            private final BigDecimal amount;
            private BigDecimal taken = ZERO;
            private BigDecimal takenAmount = ZERO;

            private Sliced(BigDecimal quantity, BigDecimal amount) {
                this.quantity = quantity;
                this.amount = amount;
            }

            private BigDecimal left() {
                return quantity.subtract(taken);
            }

            private BigDecimal take(BigDecimal more) {
                var slice = share(amount, taken.add(more), quantity).subtract(takenAmount);
                taken = taken.add(more);
                takenAmount = takenAmount.add(slice);
                return slice;
            }
        }

        private static final class Deposit {
            private String number;
            private String order;
            private BigDecimal amount;
            private BigDecimal left;
            private final Map<String, BigDecimal> applied = new TreeMap<>();
        }

        /** A payment, and what it settled when it came. */
        private record Payment(BigDecimal amount, String invoice, BigDecimal settled) {}

        /** Money that went back, of a payment. */
        private record Refund(String payment, BigDecimal amount) {}

        private static BigDecimal share(BigDecimal whole, BigDecimal part, BigDecimal of) {
            return whole.multiply(part).divide(of, 2, RoundingMode.HALF_UP);
        }

        private void post(String role, BigDecimal amount) {
            roles.merge(role, amount, BigDecimal::add);
        }

        private void stockIn(String item, BigDecimal quantity, BigDecimal cost) {
            var worth = quantity.multiply(cost).setScale(2, RoundingMode.HALF_UP);
            onHand.merge(item, quantity, BigDecimal::add);
            value.merge(item, worth, BigDecimal::add);
            post("inventory", worth);
            post("stock_clearing", worth.negate());
        }

        private void depart(String note) {
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

        private void bill(String order, String invoice, Map<Integer, BigDecimal> shares) {
            var byRate = new TreeMap<BigDecimal, BigDecimal>();
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
            invoicesOf.computeIfAbsent(order, o -> new ArrayList<>()).add(invoice);
            apply(order);
        }

        private void apply(String order) {
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

        private void deposit(String number, String order, BigDecimal amount) {
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

        private void pay(String number, BigDecimal amount, String invoice, BigDecimal settled) {
            post("bank", amount);
            post("receivables", settled.negate());
            post("customer_credit", settled.subtract(amount));
            credit.put(number, amount.subtract(settled));
            payments.put(number, new Payment(amount, invoice, settled));
            if (invoice != null) {
                open.merge(invoice, settled.negate(), BigDecimal::add);
            }
        }
    }

    /** A step that undoes what a document did, in the plainest form: the same figures with their signs turned. */
    private void takeBack(Model model) {
        switch (random.nextInt(3)) {
            case 0 ->
                model.payments.keySet().stream()
                        .skip(random.nextInt(3))
                        .findFirst()
                        .ifPresent(number -> {
                            var refunded = model.refunds.values().stream()
                                    .anyMatch(refund -> refund.payment().equals(number));
                            if (undone("PAYMENT", number, "take-back-payment", refunded ? "already-refunded" : "")) {
                                var payment = model.payments.remove(number);
                                model.post("bank", payment.amount().negate());
                                model.post("receivables", payment.settled());
                                model.post("customer_credit", payment.amount().subtract(payment.settled()));
                                model.credit.remove(number);
                                if (payment.invoice() != null) {
                                    model.open.merge(payment.invoice(), payment.settled(), BigDecimal::add);
                                }
                            }
                        });
            case 1 ->
                model.refunds.keySet().stream().findFirst().ifPresent(number -> {
                    if (undone("REFUND", number, "take-back-refund", "")) {
                        var refund = model.refunds.remove(number);
                        model.post("bank", refund.amount());
                        model.post("customer_credit", refund.amount().negate());
                        model.credit.merge(refund.payment(), refund.amount(), BigDecimal::add);
                    }
                });
            default ->
                model.deposits.stream().skip(random.nextInt(2)).findFirst().ifPresent(deposit -> {
                    if (undone("DEPOSIT", deposit.number, "take-back-deposit", "")) {
                        model.deposits.remove(deposit);
                        model.post("bank", deposit.amount.negate());
                        model.post("deposits", deposit.left);
                        deposit.applied.forEach((invoice, amount) -> {
                            model.post("receivables", amount);
                            model.open.merge(invoice, amount, BigDecimal::add);
                        });
                    }
                });
        }
    }

    /** Whether it was taken back; where it is to be refused, it must be, with that code, and never twice. */
    private boolean undone(String kind, String number, String intent, String refused) {
        var asked = "\"kind\":\"%s\",\"number\":\"%s\",\"intent\":\"%s\",\"reason\":\"a mistake\""
                .formatted(kind, number, intent);
        var plan = lead.post("/api/unwind/plans", "{%s}".formatted(asked));
        if (!refused.isEmpty()) {
            assertThat(plan.code()).as("%s: %s after %s", name, number, told).isEqualTo(refused);
            return false;
        }
        assertThat(plan.status()).as("%s: %s after %s", name, plan.body(), told).isEqualTo(200);
        var done = "{%s,\"fingerprint\":\"%s\"}".formatted(asked, plan.text("fingerprint"));
        assertThat(lead.post("/api/unwind/executions", done).status()).as(name).isEqualTo(200);
        assertThat(lead.post("/api/unwind/executions", done).code())
                .as("%s: %s is taken back once", name, number)
                .isEqualTo("already-reversed");
        told.add(intent + " " + number);
        return true;
    }

    @Test
    void agreesWithTheApplicationToTheCentAfterEveryStep() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("second model from seed " + seed + " (-Dseed=" + seed + " runs it again)");
        for (int history = 0; history < HISTORIES; history++) {
            random = new Random(seed + history);
            name = "seed " + seed + ", history " + history;
            told.clear();
            freshCustomerAndItem();
            live();
        }
    }

    private void live() {
        var before = roles();
        var model = new Model();
        var other = item + "-B";
        assertThat(admin.post(
                                "/api/items",
                                "{\"code\":\"%s\",\"name\":\"Other\",\"kind\":\"STOCK\",\"price\":0.7,\"vatCategory\":\"S\",\"vatRate\":9}"
                                        .formatted(other))
                        .status())
                .isEqualTo(200);
        model.onHand.put(item, BigDecimal.valueOf(1000));
        model.value.put(item, new BigDecimal("4000.00"));
        model.onHand.put(other, ZERO);
        model.value.put(other, ZERO);
        for (int at = 0; at < 2; at++) {
            order(model, other);
        }
        for (int step = 0; step < STEPS; step++) {
            var order = List.copyOf(model.orders.keySet()).get(random.nextInt(model.orders.size()));
            switch (random.nextInt(10)) {
                case 0 -> stockIn(model, random.nextBoolean() ? item : other);
                case 1, 2 -> stage(model, order);
                case 3 -> depart(model);
                case 4, 5 -> bill(model, order);
                case 6 -> deposit(model, order);
                case 7 -> pay(model);
                case 8 -> takeBack(model);
                default -> cancelOrRefund(model, order);
            }
            compare(model, before);
        }
        controller
                .post("/api/proofs", "{}")
                .body()
                .get("statements")
                .forEach(s ->
                        assertThat(s.get("failures")).as("%s: %s", name, told).isEmpty());
    }

    private void order(Model model, String other) {
        var lines = new ArrayList<Model.Line>();
        var json = new ArrayList<String>();
        for (var of : List.of(item, other)) {
            var line = new Model.Line();
            line.item = of;
            line.quantity = BigDecimal.valueOf(3 + random.nextInt(20));
            line.price = BigDecimal.valueOf(1 + random.nextInt(99_999), 4);
            line.rate = BigDecimal.valueOf(of.equals(item) ? 21 : 9);
            lines.add(line);
            json.add("{\"item\":\"%s\",\"quantity\":%s,\"price\":%s}"
                    .formatted(of, line.quantity, line.price.toPlainString()));
        }
        var number = clerk.post(
                        "/api/orders",
                        "{\"customer\":\"%s\",\"po\":\"%s\",\"lines\":[%s]}"
                                .formatted(customer, UUID.randomUUID(), String.join(",", json)))
                .text("number");
        assertThat(clerk.get("/api/orders/" + number).text("state")).as(name).isEqualTo("CLEARED");
        model.orders.put(number, lines);
        told.add("order " + number + json);
    }

    private void stockIn(Model model, String of) {
        var quantity = BigDecimal.valueOf(1 + random.nextInt(9));
        var cost = BigDecimal.valueOf(random.nextInt(60_000), 4);
        assertThat(warehouse
                        .post(
                                "/api/stock-receipts",
                                "{\"item\":\"%s\",\"quantity\":%s,\"unitCost\":%s}"
                                        .formatted(of, quantity, cost.toPlainString()))
                        .status())
                .isEqualTo(200);
        model.stockIn(of, quantity, cost);
        told.add("in %s × %s at %s".formatted(quantity, of, cost));
    }

    private void stage(Model model, String order) {
        var sheet = auditor.get("/api/review/" + order).body();
        var shares = new TreeMap<Integer, BigDecimal>();
        for (var flow : sheet.get("flows")) {
            var reserved = new BigDecimal(flow.get("reserved").asString());
            if (reserved.signum() > 0) {
                shares.put(flow.get("no").asInt(), BigDecimal.valueOf(1 + random.nextInt(reserved.intValue())));
            }
        }
        if (shares.isEmpty()) {
            return;
        }
        var note = warehouse.post(
                "/api/dispatches",
                "{\"order\":\"%s\",\"version\":%s,\"lines\":[%s]}"
                        .formatted(order, sheet.get("order").get("version").asString(), lines(shares, "")));
        assertThat(note.status()).as("%s: %s", name, note.body()).isEqualTo(200);
        model.staged.put(note.text("number"), shares);
        model.orderOf.put(note.text("number"), order);
        told.add("stage %s of %s".formatted(shares, order));
    }

    private static String lines(Map<Integer, BigDecimal> shares, String more) {
        return String.join(
                ",",
                shares.entrySet().stream()
                        .map(s -> "{\"line\":%d,\"quantity\":%s%s}"
                                .formatted(s.getKey(), s.getValue().toPlainString(), more))
                        .toList());
    }

    private void depart(Model model) {
        for (var note : List.copyOf(model.staged.keySet())) {
            var version = auditor.get("/api/dispatches/" + note).text("version");
            assertThat(warehouse
                            .post("/api/dispatches/" + note + "/departure", "{\"version\":%s}".formatted(version))
                            .status())
                    .as(name)
                    .isEqualTo(200);
            model.depart(note);
            told.add("gone " + note);
            if (random.nextBoolean()) {
                return;
            }
        }
    }

    private void bill(Model model, String order) {
        var ahead = random.nextInt(3) == 0;
        var shares = new TreeMap<Integer, BigDecimal>();
        for (int no = 1; no <= 2; no++) {
            var line = model.orders.get(order).get(no - 1);
            var most = ahead ? line.quantity.subtract(line.cancelled).subtract(line.billed) : line.toBill();
            if (most.signum() > 0) {
                shares.put(no, random.nextBoolean() ? most : BigDecimal.valueOf(1 + random.nextInt(most.intValue())));
            }
        }
        if (shares.isEmpty()) {
            return;
        }
        var invoice = receivables.post(
                "/api/invoices",
                "{\"orders\":[\"%s\"],\"ahead\":%s,\"lines\":[%s]}"
                        .formatted(order, ahead, lines(shares, ",\"order\":\"" + order + "\"")));
        assertThat(invoice.status())
                .as("%s: %s after %s", name, invoice.body(), told)
                .isEqualTo(200);
        model.bill(order, invoice.text("number"), shares);
        told.add("bill%s %s of %s".formatted(ahead ? " ahead" : "", shares, order));
    }

    private void deposit(Model model, String order) {
        var amount = BigDecimal.valueOf(1 + random.nextInt(3_000), 2);
        var deposit = receivables.post(
                "/api/deposits", "{\"order\":\"%s\",\"amount\":%s}".formatted(order, amount.toPlainString()));
        if (deposit.code().equals("order-ended")) {
            return;
        }
        assertThat(deposit.status()).as("%s: %s", name, deposit.body()).isEqualTo(200);
        model.deposit(deposit.text("number"), order, amount);
        told.add("deposit %s for %s".formatted(amount, order));
    }

    private void pay(Model model) {
        var open = model.open.entrySet().stream()
                .filter(e -> e.getValue().signum() > 0)
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(null);
        var amount = BigDecimal.valueOf(1 + random.nextInt(9_000), 2);
        var settled = open == null ? ZERO : amount.min(model.open.get(open));
        var payment = receivables.post(
                "/api/payments",
                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[%s]}"
                        .formatted(
                                customer,
                                amount.toPlainString(),
                                open == null
                                        ? ""
                                        : "{\"invoice\":\"%s\",\"amount\":%s}"
                                                .formatted(open, settled.toPlainString())));
        assertThat(payment.status()).as("%s: %s", name, payment.body()).isEqualTo(200);
        model.pay(payment.text("number"), amount, open, settled);
        told.add("pay %s, %s of it on %s".formatted(amount, settled, open));
    }

    private void cancelOrRefund(Model model, String order) {
        var left = model.credit.entrySet().stream()
                .filter(e -> e.getValue().signum() > 0)
                .findFirst();
        if (left.isPresent() && random.nextBoolean()) {
            var from = left.get().getKey();
            var refund = controller.post(
                    "/api/refunds",
                    "{\"of\":\"%s\",\"version\":%s,\"reason\":\"asked for\"}"
                            .formatted(
                                    from, auditor.get("/api/payments/" + from).text("version")));
            assertThat(refund.status()).as("%s: %s", name, refund.body()).isEqualTo(200);
            model.refunds.put(
                    refund.text("number"), new Model.Refund(from, left.get().getValue()));
            model.post("customer_credit", left.get().getValue());
            model.post("bank", left.get().getValue().negate());
            model.credit.put(from, ZERO);
            told.add("refund of " + from);
            return;
        }
        var no = 1 + random.nextInt(2);
        var line = model.orders.get(order).get(no - 1);
        var staged = model.staged.entrySet().stream()
                .filter(n -> model.orderOf.get(n.getKey()).equals(order))
                .map(n -> n.getValue().getOrDefault(no, ZERO))
                .reduce(ZERO, BigDecimal::add);
        var most = line.toShip().subtract(staged.max(line.ahead()));
        if (most.signum() <= 0 || random.nextInt(4) > 0) {
            return;
        }
        var plan =
                "\"kind\":\"ORDER\",\"number\":\"%s\",\"intent\":\"cancel-rest\",\"reason\":\"less\",\"lines\":[{\"line\":%d,\"quantity\":1}]"
                        .formatted(order, no);
        var fingerprint = controller.post("/api/unwind/plans", "{%s}".formatted(plan));
        if (fingerprint.code().equals("deposit-attached")) {
            return;
        }
        assertThat(fingerprint.status())
                .as("%s: %s after %s", name, fingerprint.body(), told)
                .isEqualTo(200);
        assertThat(controller
                        .post(
                                "/api/unwind/executions",
                                "{%s,\"fingerprint\":\"%s\"}".formatted(plan, fingerprint.text("fingerprint")))
                        .status())
                .isEqualTo(200);
        line.cancelled = line.cancelled.add(BigDecimal.ONE);
        told.add("cancel one of %s/%d".formatted(order, no));
    }

    private Map<String, BigDecimal> roles() {
        var roles = new TreeMap<String, BigDecimal>();
        auditor.get("/api/ledger/role-balances")
                .body()
                .forEach(row -> roles.put(row.get("role").asString(), figure(row, "balance")));
        return roles;
    }

    private static BigDecimal figure(JsonNode row, String field) {
        return new BigDecimal(row.get(field).asString());
    }

    private void compare(Model model, Map<String, BigDecimal> before) {
        var now = roles();
        var moved = new TreeMap<String, BigDecimal>();
        now.forEach((role, balance) -> {
            var by = balance.subtract(before.getOrDefault(role, ZERO));
            if (by.signum() != 0) {
                moved.put(role, by.stripTrailingZeros());
            }
        });
        var wanted = new TreeMap<String, BigDecimal>();
        model.roles.forEach((role, balance) -> {
            if (balance.signum() != 0) {
                wanted.put(role, balance.stripTrailingZeros());
            }
        });
        assertThat(moved).as("%s after %s", name, told).isEqualTo(wanted);
        model.onHand.forEach((of, quantity) -> {
            var onHand = ZERO;
            var value = ZERO;
            for (var shelf : auditor.get("/api/stock/" + of).body()) {
                onHand = onHand.add(figure(shelf, "onHand"));
                value = value.add(figure(shelf, "value"));
            }
            assertThat(onHand).as("%s: %s on hand after %s", name, of, told).isEqualByComparingTo(quantity);
            assertThat(value).as("%s: worth of %s after %s", name, of, told).isEqualByComparingTo(model.value.get(of));
        });
        model.open.forEach((invoice, open) -> assertThat(
                        figure(auditor.get("/api/invoices/" + invoice).body(), "open"))
                .as("%s: %s open after %s", name, invoice, told)
                .isEqualByComparingTo(open));
        model.orders.forEach((order, lines) -> {
            for (var flow : auditor.get("/api/review/" + order).body().get("flows")) {
                var line = lines.get(flow.get("no").asInt() - 1);
                assertThat(List.of(
                                figure(flow, "cancelled"),
                                figure(flow, "dispatched"),
                                figure(flow, "billed"),
                                figure(flow, "toShip"),
                                figure(flow, "toBill")))
                        .as("%s: %s/%s after %s", name, order, flow.get("no"), told)
                        .usingElementComparator(BigDecimal::compareTo)
                        .containsExactly(line.cancelled, line.dispatched, line.billed, line.toShip(), line.toBill());
            }
        });
        assertThat(figure(auditor.get("/api/customers/" + customer + "/credit").body(), "credit"))
                .as("%s: credit after %s", name, told)
                .isEqualByComparingTo(model.credit.values().stream().reduce(ZERO, BigDecimal::add));
    }
}
