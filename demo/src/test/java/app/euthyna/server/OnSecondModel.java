package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/** Orders and their goods beside the second model, and the comparison of all figures after each step. */
abstract class OnSecondModel extends OnServer {

    private static final BigDecimal ZERO = BigDecimal.ZERO;

    Random random;
    String name;
    final List<String> told = new ArrayList<>();

    void order(SecondModel model, String other) {
        var lines = new ArrayList<SecondModel.Line>();
        var json = new ArrayList<String>();
        for (var of : List.of(item, other)) {
            var line = new SecondModel.Line();
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

    void stockIn(SecondModel model, String of) {
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

    void stage(SecondModel model, String order) {
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

    static String lines(Map<Integer, BigDecimal> shares, String more) {
        return String.join(
                ",",
                shares.entrySet().stream()
                        .map(s -> "{\"line\":%d,\"quantity\":%s%s}"
                                .formatted(s.getKey(), s.getValue().toPlainString(), more))
                        .toList());
    }

    void depart(SecondModel model) {
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

    Rest.Answer done(Rest.Answer answer) {
        assertThat(answer.status())
                .as("%s: %s after %s", name, answer.body(), told)
                .isEqualTo(200);
        return answer;
    }

    Map<String, BigDecimal> roles() {
        var roles = new TreeMap<String, BigDecimal>();
        auditor.get("/api/ledger/role-balances")
                .body()
                .forEach(row -> roles.put(row.get("role").asString(), figure(row, "balance")));
        return roles;
    }

    static BigDecimal figure(JsonNode row, String field) {
        return new BigDecimal(row.get(field).asString());
    }

    void compare(SecondModel model, Map<String, BigDecimal> before) {
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
