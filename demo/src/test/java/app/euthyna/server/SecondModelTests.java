package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Random histories over REST beside a second, naive model of the domain reference that shares no code with the
 * application: after every step each account role, quantity and open amount must be the model's, to the cent.
 */
class SecondModelTests extends OnSecondModel {

    private static final int HISTORIES = Integer.getInteger("model.histories", 4);
    private static final int STEPS = 40;
    /** Over which all of them spread, until yesterday: fewer than an invoice has for paying early. */
    private static final int DAYS = 5;

    private static final List<String> REGISTERS = List.of(
            "sales-register",
            "credit-note-register",
            "receipts-register",
            "write-off-register",
            "dispatch-register",
            "returns-register");

    /** What stood at the end of a day: its figure, the role whose balance that is, and whether that is a credit. */
    private record Balance(String list, String figure, String role, boolean credit) {}

    private static final List<Balance> BALANCES = List.of(
            new Balance("shipped-not-billed", "cost", "goods_out", false),
            new Balance("billed-not-shipped", "net", "deferred_revenue", true),
            new Balance("open-invoices", "still", "receivables", false),
            new Balance("ageing", "still", "receivables", false),
            new Balance("on-account", "still", "customer_credit", true),
            new Balance("unapplied-deposits", "still", "deposits", true),
            new Balance("in-inspection", "cost", "goods_in_inspection", false));

    private static final BigDecimal ZERO = BigDecimal.ZERO;

    /** Undoes what one of the documents did, in the plainest form: the same figures with their signs turned. */
    private void takeBack(SecondModel model) {
        var ways = new ArrayList<Runnable>();
        model.payments.keySet().forEach(number -> ways.add(() -> unpay(model, number)));
        model.refunds.keySet().forEach(number -> ways.add(() -> unrefund(model, number)));
        model.deposits.forEach(deposit -> ways.add(() -> undeposit(model, deposit)));
        model.writeOffs
                .keySet()
                .forEach(number -> ways.add(() -> {
                    if (undone("WRITE_OFF", number, "take-back-write-off", "")) {
                        model.unreduce(model.writeOffs.remove(number));
                    }
                }));
        model.credits.forEach((number, credit) -> {
            if (!credit.ofReturn()) {
                ways.add(() -> uncredit(model, number));
                ways.add(() -> uncredit(model, number));
            }
        });
        if (!ways.isEmpty()) {
            ways.get(random.nextInt(ways.size())).run();
        }
    }

    private boolean refunded(SecondModel model, String money) {
        return model.refunds.values().stream()
                .anyMatch(refund -> refund.payment().equals(money));
    }

    private void unpay(SecondModel model, String number) {
        var discount = model.payments.get(number).discount();
        var credited = discount != null
                && model.bills.get(discount.invoice).credits.stream()
                        .anyMatch(
                                one -> one.withheldNet().add(one.withheldVat()).signum() > 0);
        var refused = refunded(model, number) ? "already-refunded" : credited ? "already-credited" : "";
        if (!undone("PAYMENT", number, "take-back-payment", refused)) {
            return;
        }
        var payment = model.payments.remove(number);
        if (discount != null) {
            model.unreduce(discount);
        }
        model.post("bank", payment.amount().negate());
        model.post("receivables", payment.settled());
        model.post("customer_credit", payment.amount().subtract(payment.settled()));
        model.credit.remove(number);
        if (payment.invoice() != null) {
            model.open.merge(payment.invoice(), payment.settled(), BigDecimal::add);
        }
    }

    private void unrefund(SecondModel model, String number) {
        if (undone("REFUND", number, "take-back-refund", "")) {
            var refund = model.refunds.remove(number);
            model.post("bank", refund.amount());
            model.post("customer_credit", refund.amount().negate());
            model.credit.merge(refund.payment(), refund.amount(), BigDecimal::add);
        }
    }

    private void undeposit(SecondModel model, SecondModel.Deposit deposit) {
        if (undone("DEPOSIT", deposit.number, "take-back-deposit", "")) {
            model.deposits.remove(deposit);
            model.post("bank", deposit.amount.negate());
            model.post("deposits", deposit.left);
            deposit.applied.forEach((invoice, amount) -> {
                model.post("receivables", amount);
                model.open.merge(invoice, amount, BigDecimal::add);
            });
        }
    }

    private void uncredit(SecondModel model, String number) {
        if (undone("CREDIT_NOTE", number, "take-back-credit", refunded(model, number) ? "already-refunded" : "")) {
            model.uncredit(number);
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
        var happened = new TreeMap<String, Integer>();
        for (int history = 0; history < HISTORIES; history++) {
            random = new Random(seed + history);
            name = "seed " + seed + ", history " + history;
            told.clear();
            itIsInDays(dayOf(history, 0));
            freshCustomerAndItem();
            live(history);
            told.forEach(step -> happened.merge(
                    step.replaceAll("[A-Z0-9][^ ]*|\\[.*|\\{.*", "").strip(), 1, Integer::sum));
        }
        System.out.println(happened);
    }

    private static int dayOf(int history, int step) {
        return (history * STEPS + step) * DAYS / (HISTORIES * STEPS) - DAYS;
    }

    private void live(int history) {
        var before = roles();
        var ends = new TreeMap<Integer, Map<String, BigDecimal>>();
        var model = new SecondModel();
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
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":10000000,\"earlyPayment\":{\"percent\":2,\"days\":10}}"
                                        .formatted(versionOf("/api/customers/" + customer)),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
        for (int at = 0; at < 2; at++) {
            order(model, other);
        }
        for (var order : List.copyOf(model.orders.keySet())) {
            stage(model, order);
            depart(model);
            bill(model, order);
        }
        for (int step = 0; step < STEPS; step++) {
            itIsInDays(dayOf(history, step));
            var order = List.copyOf(model.orders.keySet()).get(random.nextInt(model.orders.size()));
            switch (random.nextInt(18)) {
                case 0 -> stockIn(model, random.nextBoolean() ? item : other);
                case 1, 2 -> stage(model, order);
                case 3 -> depart(model);
                case 4, 5 -> bill(model, order);
                case 6 -> deposit(model, order);
                case 7 -> pay(model);
                case 8, 9 -> takeBack(model);
                case 10 -> writeOff(model);
                case 11 -> payEarly(model);
                case 12 -> credit(model);
                case 13, 14 -> creditSome(model);
                case 15 -> comeBack(model);
                default -> cancelOrRefund(model, order);
            }
            compare(model, before);
            ends.put(dayOf(history, step), Map.copyOf(model.roles));
        }
        controller
                .post("/api/proofs", "{}")
                .body()
                .get("statements")
                .forEach(s ->
                        assertThat(s.get("failures")).as("%s: %s", name, told).isEmpty());
        registersTie();
        balancesStoodAs(ends);
    }

    private JsonNode totals(String list, String filters) {
        var answer = auditor.get("/api/lists/%s/totals%s".formatted(list, filters));
        assertThat(answer.status()).as("%s%s: %s", list, filters, answer.body()).isEqualTo(200);
        return answer.body();
    }

    private void holds(String list, LocalDate on, JsonNode totals) {
        for (var tied : totals.get("proof").get("figures")) {
            assertThat(figure(tied, "difference"))
                    .as("%s: %s on %s: %s after %s", name, list, on, tied, told)
                    .isZero();
            assertThat(tied.get("agrees").asBoolean()).isTrue();
        }
    }

    /** As of each day, of all customers what the ledger says, and of this one what the model had at that day's end. */
    private void balancesStoodAs(NavigableMap<Integer, Map<String, BigDecimal>> ends) {
        for (var balance : BALANCES) {
            // before the day that the clock shows: on later days others have posted, which never is so but in tests
            for (int day = -DAYS - 1; day < ends.lastKey(); day++) {
                var on = realToday().plusDays(day);
                holds(balance.list(), on, totals(balance.list(), "?filter=asOf:at:" + on));
            }
            ends.forEach((day, roles) -> {
                var on = realToday().plusDays(day);
                var asked = "?filter=asOf:at:%s&filter=customer:any:%s".formatted(on, customer);
                var sum = figure(totals(balance.list(), asked).get("sums"), balance.figure());
                var page = auditor.get("/api/lists/" + balance.list() + "/rows" + asked);
                assertThat(page.status()).as("%s: %s", name, page.body()).isEqualTo(200);
                assertThat(page.body()
                                .get("rows")
                                .valueStream()
                                .map(row -> figure(row.get("cells"), balance.figure()))
                                .reduce(ZERO, BigDecimal::add))
                        .as("%s: rows of %s as of %s", name, balance.list(), on)
                        .isEqualByComparingTo(sum);
                assertThat(balance.credit() ? sum.negate() : sum)
                        .as("%s: %s as of %s after %s", name, balance.list(), on, told)
                        .isEqualByComparingTo(roles.getOrDefault(balance.role(), ZERO));
            });
        }
    }

    /** Each register is what the ledger moved for its documents, on each day and on all of them. */
    private void registersTie() {
        var rows = 0;
        for (var register : REGISTERS) {
            for (int day = -DAYS; day <= 0; day++) {
                var on = realToday().plusDays(day);
                var totals = totals(register, day == 0 ? "" : "?filter=enteredOn:between:%s..%s".formatted(on, on));
                rows += totals.get("count").asInt();
                holds(register, on, totals);
            }
        }
        assertThat(rows).isPositive();
    }

    private void bill(SecondModel model, String order) {
        var ahead = random.nextInt(3) == 0;
        var shares = new TreeMap<Integer, BigDecimal>();
        for (int no = 1; no <= 2; no++) {
            var line = model.orders.get(order).get(no - 1);
            var most = ahead ? line.toBillAhead() : line.toBill();
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

    private void deposit(SecondModel model, String order) {
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

    private void pay(SecondModel model) {
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

    /** An invoice with something open that is not all credited. */
    private String openInvoice(SecondModel model) {
        return model.open.entrySet().stream()
                .filter(one -> one.getValue().signum() > 0
                        && !model.bills.get(one.getKey()).isAllCredited())
                .map(Map.Entry::getKey)
                .skip(random.nextInt(2))
                .findFirst()
                .orElse(null);
    }

    private void writeOff(SecondModel model) {
        var invoice = openInvoice(model);
        if (invoice == null) {
            return;
        }
        var badDebt = random.nextBoolean();
        var open = model.open.get(invoice);
        var amount = badDebt && random.nextBoolean()
                ? open
                : BigDecimal.valueOf(1 + random.nextInt(badDebt ? 900 : 40), 2).min(open);
        var small = model.bills.get(invoice).reduced.stream()
                .filter(one -> one.role.equals("payment_differences"))
                .map(one -> one.amount)
                .reduce(amount, BigDecimal::add);
        var answer = lead.post(
                "/api/invoices/" + invoice + "/write-offs",
                "{\"version\":%s,\"kind\":\"%s\",\"amount\":%s,\"reason\":\"not paid\"}"
                        .formatted(
                                auditor.get("/api/invoices/" + invoice).text("version"),
                                badDebt ? "BAD_DEBT" : "SMALL_DIFFERENCE",
                                amount.toPlainString()));
        if (!badDebt && small.compareTo(BigDecimal.ONE) > 0) {
            assertThat(answer.code()).as("%s after %s", name, told).isEqualTo("limit-of-person");
            return;
        }
        assertThat(answer.status())
                .as("%s: %s after %s", name, answer.body(), told)
                .isEqualTo(200);
        model.writeOffs.put(
                answer.text("number"),
                model.reduce(invoice, badDebt ? "bad_debt" : "payment_differences", amount, badDebt));
        told.add("write %s off %s".formatted(amount, invoice));
    }

    /** Two per cent of all of it, with the money that settles the rest. */
    private void payEarly(SecondModel model) {
        var invoice = openInvoice(model);
        if (invoice == null || model.bills.get(invoice).discount() != null) {
            return;
        }
        var discount =
                SecondModel.share(model.bills.get(invoice).left(), BigDecimal.valueOf(2), BigDecimal.valueOf(100));
        var paid = model.open.get(invoice).subtract(discount);
        if (paid.signum() <= 0 || discount.signum() == 0) {
            return;
        }
        var payment = receivables.post(
                "/api/payments",
                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s,\"discount\":true}]}"
                        .formatted(customer, paid.toPlainString(), invoice, paid.toPlainString()));
        assertThat(payment.status())
                .as("%s: %s after %s", name, payment.body(), told)
                .isEqualTo(200);
        model.pay(payment.text("number"), paid, invoice, paid);
        model.payments.put(
                payment.text("number"),
                new SecondModel.Payment(paid, invoice, paid, model.reduce(invoice, "sales_discounts", discount, true)));
        told.add("pay %s early with %s, less %s".formatted(invoice, paid, discount));
    }

    /** An invoice whose goods have all gone, with something left to credit. */
    private Optional<String> toCredit(SecondModel model) {
        return model.bills.entrySet().stream()
                .filter(one -> !one.getValue().isAllCredited())
                .map(Map.Entry::getKey)
                .filter(model::allGone)
                .skip(random.nextInt(2))
                .findFirst();
    }

    /** All that is left of it is credited; refused where something of it was written off. */
    private void credit(SecondModel model) {
        toCredit(model).ifPresent(invoice -> {
            var quantities = new LinkedHashMap<SecondModel.Billed, BigDecimal>();
            model.bills.get(invoice).lines.stream()
                    .filter(line -> line.toCredit().signum() > 0)
                    .forEach(line -> quantities.put(line, line.toCredit()));
            credit(model, "\"ofInvoice\":\"%s\"".formatted(invoice), invoice, quantities, false);
        });
    }

    /** A part of one of its lines. */
    private void creditSome(SecondModel model) {
        toCredit(model).ifPresent(invoice -> {
            var line = model.bills.get(invoice).lines.stream()
                    .filter(one -> one.toCredit().signum() > 0)
                    .findFirst()
                    .orElseThrow();
            var quantity = BigDecimal.valueOf(1 + random.nextInt(line.toCredit().intValue()));
            if (model.toCredit(invoice, Map.of(line, quantity), false).gross().signum() > 0) {
                var asked = "\"ofInvoice\":\"%s\",\"lines\":[{\"line\":%d,\"quantity\":%s}]"
                        .formatted(invoice, line.no, quantity);
                credit(model, asked, invoice, Map.of(line, quantity), false);
            }
        });
    }

    private void credit(
            SecondModel model,
            String asked,
            String invoice,
            Map<SecondModel.Billed, BigDecimal> quantities,
            boolean ofReturn) {
        var answer = receivables.post("/api/credit-notes", "{%s,\"reason\":\"agreed\"}".formatted(asked));
        if (model.bills.get(invoice).isWrittenOff()) {
            assertThat(answer.code()).as("%s after %s", name, told).isEqualTo("already-written-off");
            return;
        }
        assertThat(answer.status())
                .as("%s: %s after %s", name, answer.body(), told)
                .isEqualTo(200);
        model.credit(answer.body().get("numbers").get(0).asString(), model.toCredit(invoice, quantities, ofReturn));
        told.add("credit %s: %s".formatted(invoice, quantities.values()));
    }

    /**
     * Goods of a dispatch line come back, go to a shelf or are scrapped, and are credited; of one invoice that has no
     * credit without goods, so that what comes back and what is credited are the same.
     */
    private void comeBack(SecondModel model) {
        var lines = model.orders.values().stream()
                .flatMap(List::stream)
                .filter(line -> line.gone.stream().anyMatch(gone -> gone.out().signum() > 0))
                // what comes to less than a cent is not credited
                .filter(line -> line.price.compareTo(BigDecimal.ONE) >= 0)
                .toList();
        if (lines.isEmpty()) {
            return;
        }
        var line = lines.get(random.nextInt(lines.size()));
        var gone = line.gone.stream()
                .filter(one -> one.out().signum() > 0)
                .findFirst()
                .orElseThrow();
        var invoices = model.bills.entrySet().stream()
                .filter(bill -> bill.getValue().lines.stream()
                        .anyMatch(one -> one.sources.stream().anyMatch(source -> source.gone == gone)))
                .toList();
        if (invoices.size() > 1
                || invoices.stream()
                        .anyMatch(bill -> bill.getValue().isWrittenOff()
                                || bill.getValue().credits.stream().anyMatch(credit -> !credit.ofReturn()))) {
            return;
        }
        var quantity = BigDecimal.valueOf(1 + random.nextInt(gone.out().intValue()));
        var goods = done(clerk.post(
                        "/api/returns",
                        "{\"lines\":[{\"dispatch\":\"%s\",\"line\":%s,\"quantity\":%s}],\"reason\":\"damaged\"}"
                                .formatted(gone.note, gone.lineNo, quantity)))
                .text("number");
        done(warehouse.post("/api/returns/" + goods + "/receipts", "{}"));
        var billed = model.comeBack(gone, quantity);
        told.add("%s of %s/%d come back".formatted(quantity, gone.note, gone.lineNo));
        var restock = random.nextBoolean();
        var worth = model.roles.get("goods_in_inspection");
        done(warehouse.post(
                "/api/returns/" + goods + "/inspections",
                "{\"lines\":[{\"line\":1,\"%s\":%s}]}".formatted(restock ? "restock" : "scrap", quantity)));
        model.post("goods_in_inspection", worth.negate());
        model.post(restock ? "inventory" : "write_off", worth);
        if (restock) {
            model.onHand.merge(line.item, quantity, BigDecimal::add);
            model.value.merge(line.item, worth, BigDecimal::add);
        }
        if (!billed.isEmpty()) {
            var invoice = invoices.get(0).getKey();
            credit(model, "\"ofReturn\":\"%s\"".formatted(goods), invoice, billed, true);
        }
    }

    private void cancelOrRefund(SecondModel model, String order) {
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
                    refund.text("number"),
                    new SecondModel.Refund(from, left.get().getValue()));
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
}
