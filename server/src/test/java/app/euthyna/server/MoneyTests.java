package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Goods, billing, money and the ledger through the whole stack; figures invented, rules from the domain reference. */
class MoneyTests extends OnServer {

    @Nested
    class Deposits {

        private String deposit(String order, String amount) {
            return receivables
                    .post("/api/deposits", "{\"order\":\"%s\",\"amount\":%s}".formatted(order, amount))
                    .text("number");
        }

        /** Gross 121.00 each; 150.00 deposited for the first of two orders. */
        @Test
        void settleInvoicesMoveOnBecomeCreditAndGoBackWithoutLosingACent() {
            var first = cleared(10);
            var second = cleared(10);
            var before = balances();
            var deposit = deposit(first, "150");
            gone(first);
            var invoice = billed(first).text("number");
            assertThat(auditor.get("/api/invoices/" + invoice).text("state")).isEqualTo("PAID");
            assertThat(auditor.get("/api/deposits/" + deposit).text("unapplied"))
                    .isEqualTo("29.00");
            var on = receivables.post(
                    "/api/deposits/" + deposit + "/moves",
                    "{\"version\":%s,\"order\":\"%s\",\"amount\":9}"
                            .formatted(versionOf("/api/deposits/" + deposit), second));
            assertThat(on.text("movedFrom")).isEqualTo(deposit);
            assertThat(receivables
                            .post(
                                    "/api/deposits/" + deposit + "/credits",
                                    "{\"version\":%s,\"amount\":15}".formatted(versionOf("/api/deposits/" + deposit)))
                            .status())
                    .isEqualTo(200);
            assertThat(auditor.get("/api/customers/" + customer + "/credit").text("credit"))
                    .isEqualTo("15.00");
            assertThat(receivables
                            .post(
                                    "/api/refunds",
                                    "{\"of\":\"%s\",\"version\":%s,\"reason\":\"asked for\"}"
                                            .formatted(deposit, versionOf("/api/deposits/" + deposit)))
                            .code())
                    .as("whoever recorded it does not refund it")
                    .isEqualTo("four-eyes");
            var refund = controller.post(
                    "/api/refunds",
                    "{\"of\":\"%s\",\"version\":%s,\"reason\":\"asked for\"}"
                            .formatted(deposit, versionOf("/api/deposits/" + deposit)));
            assertThat(refund.text("amount")).isEqualTo("5.00");
            assertThat(moved(before, balances()))
                    .containsEntry("bank", "145.00")
                    .containsEntry("deposits", "-9.00")
                    .containsEntry("customer_credit", "-15.00")
                    .doesNotContainKey("receivables");
            var more = controller.post(
                    "/api/refunds",
                    "{\"of\":\"%s\",\"version\":%s,\"amount\":15.01,\"reason\":\"too much\"}"
                            .formatted(deposit, versionOf("/api/payments/" + deposit)));
            assertThat(more.code()).isEqualTo("more-than-open");
            for (var start : List.of(
                    List.of("DEPOSIT", deposit),
                    List.of("ORDER", first),
                    List.of("ORDER", second),
                    List.of("REFUND", refund.text("number")),
                    List.of("DEPOSIT", on.text("number")))) {
                agrees(start.get(0), start.get(1));
            }
            booksAgree();
        }

        @Test
        void standInTheWayOfCancellingTheirOrder() {
            var order = cleared(2);
            deposit(order, "10");
            var refused = controller.post(
                    "/api/unwind/plans",
                    "{\"kind\":\"ORDER\",\"number\":\"%s\",\"intent\":\"cancel-order\",\"reason\":\"changed their mind\"}"
                            .formatted(order));
            assertThat(refused.code()).isEqualTo("deposit-attached");
            assertThat(refused.text("detail")).contains("EUR 10.00");
        }

        @Test
        void areAskedForInPerCentOfTheGross() {
            var order = cleared(10);
            var asked = clerk.send(
                    "PUT",
                    "/api/orders/" + order + "/deposit-request",
                    "{\"percent\":30}",
                    UUID.randomUUID().toString());
            assertThat(asked.text("amount")).isEqualTo("36.30");
            deposit(order, "20");
            assertThat(clerk.get("/api/orders/" + order + "/deposit-request").text("missing"))
                    .isEqualTo("16.30");
        }
    }

    @Nested
    class Payments {

        @Test
        void thatBounceOpenTheirInvoicesAgainAndAreMirroredLineByLine() {
            var order = cleared(10);
            gone(order);
            var invoice = billed(order).text("number");
            var before = balances();
            var payment = receivables
                    .post(
                            "/api/payments",
                            "{\"customer\":\"%s\",\"amount\":130,\"allocate\":[{\"invoice\":\"%s\",\"amount\":100}]}"
                                    .formatted(customer, invoice))
                    .text("number");
            receivables.post(
                    "/api/credit-allocations",
                    "{\"customer\":\"%s\",\"allocate\":[{\"invoice\":\"%s\",\"amount\":21}]}"
                            .formatted(customer, invoice));
            assertThat(auditor.get("/api/invoices/" + invoice).text("state")).isEqualTo("PAID");
            var reversal = "{\"version\":%s,\"reason\":\"returned by the bank\"}";
            assertThat(receivables
                            .post("/api/payments/" + payment + "/reversal", reversal.formatted(0))
                            .code())
                    .isEqualTo("stale-version");
            var reversed = receivables.post(
                    "/api/payments/" + payment + "/reversal",
                    reversal.formatted(versionOf("/api/payments/" + payment)));
            assertThat(reversed.body().get("reversed").asBoolean()).isTrue();
            assertThat(auditor.get("/api/invoices/" + invoice).text("open")).isEqualTo("121.00");
            assertThat(moved(before, balances())).isEmpty();
            var entries = auditor.get("/api/ledger/entries?document=" + payment)
                    .body()
                    .get("rows");
            assertThat(entries).hasSize(4);
            assertThat(entries.get(0).get("mirrors").asString())
                    .isEqualTo(entries.get(2).get("number").asString());
            assertThat(receivables
                            .post(
                                    "/api/payments/" + payment + "/reversal",
                                    reversal.formatted(versionOf("/api/payments/" + payment)))
                            .code())
                    .isEqualTo("already-reversed");
            agrees("PAYMENT", payment);
            agrees("ORDER", order);
            booksAgree();
        }

        @Test
        void takenOffAnInvoiceStayAsCreditAndPayAnother() {
            var order = cleared(4);
            gone(order);
            var invoice = billed(order).text("number");
            var payment = receivables
                    .post(
                            "/api/payments",
                            "{\"customer\":\"%s\",\"amount\":48.40,\"allocate\":[{\"invoice\":\"%s\",\"amount\":48.40}]}"
                                    .formatted(customer, invoice))
                    .text("number");
            var off = "{\"version\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s}]}";
            assertThat(receivables
                            .post(
                                    "/api/payments/" + payment + "/unallocations",
                                    off.formatted(versionOf("/api/payments/" + payment), invoice, "48.41"))
                            .code())
                    .isEqualTo("more-than-open");
            assertThat(receivables
                            .post(
                                    "/api/payments/" + payment + "/unallocations",
                                    off.formatted(versionOf("/api/payments/" + payment), invoice, "8.40"))
                            .text("left"))
                    .isEqualTo("8.40");
            assertThat(auditor.get("/api/invoices/" + invoice).text("state")).isEqualTo("PART_PAID");
            agrees("INVOICE", invoice);
        }
    }

    @Nested
    class BilledAhead {

        /** Ten at 10.00 and 21 %: revenue when control passes (IFRS 15.31), cost at the moving average of 4.00. */
        @Test
        void revenueWaitsForTheGoods() {
            var order = cleared(10);
            var before = balances();
            assertThat(billed(order).code()).isEqualTo("more-than-dispatched");
            var invoice = receivables.post(
                    "/api/invoices", "{\"orders\":[\"%s\"],\"ahead\":true,\"text\":\"as agreed\"}".formatted(order));
            assertThat(invoice.text("gross")).isEqualTo("121.00");
            assertThat(invoice.text("text")).isEqualTo("as agreed");
            assertThat(moved(before, balances()))
                    .isEqualTo(Map.of("receivables", "121.00", "deferred_revenue", "-100.00", "output_vat", "-21.00"));
            var note = gone(order);
            assertThat(moved(before, balances()))
                    .isEqualTo(Map.of(
                            "receivables",
                            "121.00",
                            "revenue",
                            "-100.00",
                            "output_vat",
                            "-21.00",
                            "cogs",
                            "40.00",
                            "inventory",
                            "-40.00"));
            assertThat(auditor.get("/api/orders/" + order).text("state")).isEqualTo("COMPLETED");
            assertThat(auditor.get("/api/invoices/" + invoice.text("number"))
                            .body()
                            .get("lines")
                            .get(0)
                            .get("dispatches")
                            .get(0)
                            .asString())
                    .isEqualTo(note);
            agrees("ORDER", order);
            booksAgree();
        }
    }

    @Nested
    class DirectInvoices {

        @Test
        void makeOrderDispatchAndInvoiceInOneStepOrNothing() {
            var before = balances();
            var invoice = receivables.post(
                    "/api/direct-invoices",
                    "{\"customer\":\"%s\",\"po\":\"D-1\",\"lines\":[{\"item\":\"%s\",\"quantity\":3}]}"
                            .formatted(customer, item));
            assertThat(invoice.text("gross")).isEqualTo("36.30");
            var line = invoice.body().get("lines").get(0);
            assertThat(line.get("po").asString()).isEqualTo("D-1");
            var order = line.get("order").asString();
            assertThat(auditor.get("/api/orders/" + order).text("kind")).isEqualTo("DIRECT");
            assertThat(auditor.get("/api/orders/" + order).text("state")).isEqualTo("COMPLETED");
            assertThat(moved(before, balances()))
                    .isEqualTo(Map.of(
                            "receivables",
                            "36.30",
                            "revenue",
                            "-30.00",
                            "output_vat",
                            "-6.30",
                            "cogs",
                            "12.00",
                            "inventory",
                            "-12.00"));
            var again = receivables.post(
                    "/api/direct-invoices",
                    "{\"customer\":\"%s\",\"po\":\"D-1\",\"lines\":[{\"item\":\"%s\",\"quantity\":3}]}"
                            .formatted(customer, item));
            assertThat(again.code()).isEqualTo("not-cleared");
            var short1 = receivables.post(
                    "/api/direct-invoices",
                    "{\"customer\":\"%s\",\"po\":\"D-2\",\"lines\":[{\"item\":\"%s\",\"quantity\":2000}]}"
                            .formatted(customer, item));
            assertThat(short1.code()).isEqualTo("not-reserved");
            assertThat(jdbc.sql("select count(*) from sales_order o join customer c on c.id = o.customer_id where"
                                    + " c.code = ?")
                            .param(customer)
                            .query(Long.class)
                            .single())
                    .isEqualTo(1);
        }
    }

    @Nested
    class Shelves {

        private JsonNode shelf() {
            return auditor.get("/api/stock/" + item).body().get(0);
        }

        private Rest.Answer count(String counted) {
            return warehouse.post(
                    "/api/stock-counts",
                    "{\"item\":\"%s\",\"counted\":%s,\"reason\":\"counted twice\"}".formatted(item, counted));
        }

        /** 1000 at 4.00; two orders of 600 and 300, the later one of which gives up what is no longer there. */
        @Test
        void areBroughtToTheCountAndTheLastInTheQueueGivesUpFirst() {
            var first = cleared(600);
            var second = cleared(300);
            var before = balances();
            var note = staged(first);
            assertThat(count("599").code()).isEqualTo("staged-goods");
            assertThat(count("700").status()).isEqualTo(200);
            assertThat(shelf().get("onHand").asString()).isEqualTo("700");
            assertThat(shelf().get("reserved").asString()).isEqualTo("700");
            assertThat(moved(before, balances()))
                    .isEqualTo(Map.of("inventory", "-1200.00", "stock_adjustment", "1200.00"));
            var flow = auditor.get("/api/review/" + second).body().get("flows").get(0);
            assertThat(flow.get("reserved").asString()).isEqualTo("100");
            assertThat(flow.get("waiting").asString()).isEqualTo("200");
            assertThat(count("750").status()).isEqualTo(200);
            assertThat(auditor.get("/api/review/" + second)
                            .body()
                            .get("flows")
                            .get(0)
                            .get("reserved")
                            .asString())
                    .as("what was found is offered")
                    .isEqualTo("150");
            warehouse.post(
                    "/api/dispatches/" + note.text("number") + "/voiding",
                    "{\"version\":%s}".formatted(note.text("version")));
            booksAgree();
        }

        @Test
        void areFilledFromAFileWholeAndOnce() {
            var file = "item,quantity,unit_cost\n%s,12.5,4.2\n%s,1,4\n".formatted(item, item);
            assertThat(warehouse
                            .uploadTo(
                                    "/api/imports/stock",
                                    file.replace("4.2", "dear").getBytes(java.nio.charset.StandardCharsets.UTF_8))
                            .text("sentence"))
                    .startsWith("Nothing imported");
            assertThat(warehouse
                            .uploadTo("/api/imports/stock", file.getBytes(java.nio.charset.StandardCharsets.UTF_8))
                            .text("sentence"))
                    .isEqualTo("2 rows imported.");
            assertThat(warehouse
                            .uploadTo("/api/imports/stock", file.getBytes(java.nio.charset.StandardCharsets.UTF_8))
                            .body()
                            .get("takenBefore")
                            .asBoolean())
                    .isTrue();
            assertThat(shelf().get("onHand").asString()).isEqualTo("1013.5");
            assertThat(shelf().get("value").asString()).isEqualTo("4056.50");
        }

        @Test
        void areTransferredFromOneOrderToAnotherByADecider() {
            var first = cleared(1000);
            var second = cleared(5);
            var ask =
                    "{\"from\":\"%s\",\"fromLine\":1,\"to\":\"%s\",\"toLine\":1,\"version\":%s,\"quantity\":%d,\"reason\":\"their"
                            + " boat sails tonight\"}";
            assertThat(controller
                            .post(
                                    "/api/reservation-transfers",
                                    ask.formatted(first, second, versionOf("/api/orders/" + second), 6))
                            .code())
                    .isEqualTo("more-than-open");
            assertThat(controller
                            .post(
                                    "/api/reservation-transfers",
                                    ask.formatted(first, second, versionOf("/api/orders/" + second), 5))
                            .status())
                    .isEqualTo(200);
            assertThat(auditor.get("/api/review/" + second)
                            .body()
                            .get("flows")
                            .get(0)
                            .get("reserved")
                            .asString())
                    .isEqualTo("5");
            assertThat(auditor.get("/api/review/" + first)
                            .body()
                            .get("flows")
                            .get(0)
                            .get("waiting")
                            .asString())
                    .isEqualTo("5");
            assertThat(auditor.get("/api/review/" + first).body().get("history").toString())
                    .contains("their boat sails tonight");
            booksAgree();
        }

        @Test
        void tellBeforeANoteLeavesWhatFallsUnderItsMinimumAndACarrierMayBeSilent() {
            jdbc.sql("update item set min_stock = 995 where code = ?")
                    .param(item)
                    .update();
            var order = cleared(10);
            var note = staged(order);
            assertThat(note.body().get("fallsUnderMinimum").get(0).get("left").asString())
                    .isEqualTo("990");
            admin.send(
                    "PUT",
                    "/api/simulated-carrier",
                    "{\"answers\":false}",
                    UUID.randomUUID().toString());
            var booking = "{\"version\":%s,\"carrier\":\"Tidewater Freight\"}".formatted(note.text("version"));
            var silent = warehouse.post("/api/dispatches/" + note.text("number") + "/carrier", booking);
            assertThat(silent.text("carrierFailure"))
                    .isEqualTo("The carrier Tidewater Freight did not answer in 3 tries.");
            admin.send(
                    "PUT",
                    "/api/simulated-carrier",
                    "{\"answers\":true}",
                    UUID.randomUUID().toString());
            var booked = warehouse.post("/api/dispatches/" + note.text("number") + "/carrier", booking);
            assertThat(booked.text("carrierReference")).startsWith("TI-");
            assertThat(booked.body().get("carrierFailure").isNull()).isTrue();
        }
    }

    @Nested
    class Batches {

        @Test
        void stageSendOffAndBillEachOnItsOwnAndSayWhatBecameOfIt() {
            var orders = List.of(cleared(3), cleared(4), cleared(5));
            var staging = warehouse.post(
                    "/api/batches/stagings",
                    "{\"orders\":[%s]}"
                            .formatted(String.join(
                                    ",",
                                    orders.stream()
                                            .map(order -> "{\"order\":\"%s\",\"version\":%s}"
                                                    .formatted(
                                                            order,
                                                            order.equals(orders.get(1))
                                                                    ? "99"
                                                                    : versionOf("/api/orders/" + order)))
                                            .toList())));
            assertThat(staging.body().get("done").asInt()).isEqualTo(2);
            assertThat(staging.body().get("entries").get(1).get("code").asString())
                    .isEqualTo("stale-version");
            var notes = List.of(
                    staging.body().get("entries").get(0).get("result").asString(),
                    staging.body().get("entries").get(2).get("result").asString());
            var departing = warehouse.post(
                    "/api/batches/departures",
                    "{\"dispatches\":[%s]}"
                            .formatted(String.join(
                                    ",",
                                    notes.stream()
                                            .map(note -> "{\"dispatch\":\"%s\",\"version\":%s}"
                                                    .formatted(note, versionOf("/api/dispatches/" + note)))
                                            .toList())));
            assertThat(departing.body().get("done").asInt()).isEqualTo(2);
            var billing = receivables.post(
                    "/api/batches/billings",
                    "{\"invoices\":[{\"orders\":[\"%s\",\"%s\"]},{\"orders\":[\"%s\"]}]}"
                            .formatted(orders.get(0), orders.get(2), orders.get(1)));
            assertThat(billing.body().get("entries").get(0).get("state").asString())
                    .isEqualTo("DONE");
            assertThat(billing.body().get("entries").get(1).get("code").asString())
                    .isEqualTo("more-than-dispatched");
            var invoice = billing.body().get("entries").get(0).get("result").asString();
            assertThat(auditor.get("/api/invoices/" + invoice).body().get("lines"))
                    .hasSize(2);
            assertThat(auditor.get("/api/batches/" + billing.text("id")).body().get("entries"))
                    .isEqualTo(billing.body().get("entries"));
            booksAgree();
        }

        /** A server that went down has left an entry waiting: it is taken up, once. */
        @Test
        void areTakenUpWhereAServerLeftThem() throws Exception {
            var order = cleared(2);
            gone(order);
            var done = receivables.post(
                    "/api/batches/billings", "{\"invoices\":[{\"orders\":[\"%s\"]}]}".formatted(order));
            assertThat(done.body().get("done").asInt()).isEqualTo(1);
            var another = cleared(2);
            gone(another);
            jdbc.sql("update batch set touched_at = timestamp with time zone '2020-01-01 00:00:00+00' where id = ?")
                    .param(Long.valueOf(done.text("id")))
                    .update();
            jdbc.sql("update batch_entry set state = 'WAITING', request = ? where batch_id = ?")
                    .params("{\"orders\":[\"%s\"],\"text\":\"\"}".formatted(another), Long.valueOf(done.text("id")))
                    .update();
            for (int tries = 0;
                    tries < 60
                            && auditor.get("/api/batches/" + done.text("id"))
                                            .body()
                                            .get("waiting")
                                            .asInt()
                                    > 0;
                    tries++) {
                Thread.sleep(250);
            }
            assertThat(auditor.get("/api/orders/" + another).text("state")).isEqualTo("COMPLETED");
            assertThat(auditor.get("/api/orders/" + order).text("state")).isEqualTo("COMPLETED");
            booksAgree();
        }
    }

    @Nested
    class Books {

        private Rest.Answer close(String through) {
            return lead.post("/api/ledger/periods/closings", "{\"through\":\"%s\"}".formatted(through));
        }

        @Test
        void areClosedAndOpenedAgainForAReason() {
            clock.set(LocalDate.of(realToday().getYear(), 1, 20));
            var order = cleared(1);
            gone(order);
            var month = realToday().getYear() + "-01-31";
            assertThat(close(month).code()).isEqualTo("period-not-over");
            clock.set(LocalDate.of(realToday().getYear(), 2, 3));
            assertThat(close(month).status()).isEqualTo(200);
            try {
                assertThat(close(month).code()).isEqualTo("incomplete");
                var refused = receivables.post(
                        "/api/invoices", "{\"orders\":[\"%s\"],\"date\":\"%s\"}".formatted(order, month));
                assertThat(refused.code()).isEqualTo("period-closed");
                assertThat(refused.text("detail"))
                        .isEqualTo("The books are closed through 31 Jan %1$d; no entry can be dated 31 Jan %1$d."
                                .formatted(realToday().getYear()));
                assertThat(lead.post("/api/ledger/periods/reopenings", "{}").code())
                        .isEqualTo("incomplete");
                booksAgree();
            } finally {
                assertThat(lead.post("/api/ledger/periods/reopenings", "{\"reason\":\"a late bill\"}")
                                .body()
                                .get("closedThrough")
                                .isNull())
                        .isTrue();
            }
            assertThat(receivables
                            .post("/api/invoices", "{\"orders\":[\"%s\"],\"date\":\"%s\"}".formatted(order, month))
                            .status())
                    .isEqualTo(200);
            booksAgree();
        }

        @Test
        void takeEntriesByHandButNeverIntoControlAccounts() {
            var entry = "{\"reason\":\"bank charges of the"
                    + " month\",\"lines\":[{\"account\":\"5300\",\"debit\":4.20},{\"account\":\"%s\",\"credit\":%s}]}";
            assertThat(lead.post("/api/ledger/manual-entries", entry.formatted("1000", "4.20"))
                            .text("event"))
                    .isEqualTo("manual");
            var control = lead.post("/api/ledger/manual-entries", entry.formatted("1200", "4.20"));
            assertThat(control.code()).isEqualTo("control-account");
            assertThat(lead.post("/api/ledger/manual-entries", entry.formatted("1000", "4.21"))
                            .code())
                    .isEqualTo("incomplete");
            booksAgree();
        }

        @Test
        void sayWhichRowGaveAnAccountAndNameACombinationThatHasNone() {
            var map = "{\"role\":\"revenue\",\"customerClass\":\"%s\",\"account\":\"%s\",\"reason\":\"told apart from"
                    + " now on\"}";
            assertThat(lead.send(
                                    "PUT",
                                    "/api/ledger/posting-map",
                                    map.formatted("", "nowhere"),
                                    UUID.randomUUID().toString())
                            .code())
                    .isEqualTo("not-found");
            var code = "4" + UUID.randomUUID().toString().substring(0, 6);
            lead.post("/api/ledger/accounts", "{\"code\":\"%s\",\"name\":\"Sales to clubs\"}".formatted(code));
            assertThat(lead.send(
                                    "PUT",
                                    "/api/ledger/posting-map",
                                    map.formatted("club", code),
                                    UUID.randomUUID().toString())
                            .code())
                    .as("services of clubs would have two accounts")
                    .isEqualTo("ambiguous-posting-rule");
            lead.send(
                    "PUT",
                    "/api/ledger/posting-map",
                    map.formatted("club", code).replace("{", "{\"itemClass\":\"service\","),
                    UUID.randomUUID().toString());
            lead.send(
                    "PUT",
                    "/api/ledger/posting-map",
                    map.formatted("club", code),
                    UUID.randomUUID().toString());
            jdbc.sql("update customer set customer_class = 'club' where code = ?")
                    .param(customer)
                    .update();
            var order = cleared(1);
            gone(order);
            var invoice = billed(order).text("number");
            var revenue = lines(invoice).get("revenue");
            assertThat(revenue.get("account").asString()).isEqualTo(code);
            assertThat(revenue.get("explained").get(0).get("row").asString())
                    .isEqualTo("revenue with customer class club");
            assertThat(revenue.get("explained").get(0).get("asked").asString()).isEqualTo("customer class club");
            assertThat(lines(invoice)
                            .get("cogs")
                            .get("explained")
                            .get(0)
                            .get("row")
                            .asString())
                    .isEqualTo("cost of sales, any");
            lead.send(
                    "PUT",
                    "/api/ledger/posting-map",
                    map.formatted("", ""),
                    UUID.randomUUID().toString());
            lead.send(
                    "PUT",
                    "/api/ledger/posting-map",
                    map.formatted("club", ""),
                    UUID.randomUUID().toString());
            var more = cleared(1);
            gone(more);
            var refused = billed(more);
            assertThat(refused.code()).isEqualTo("no-posting-rule");
            assertThat(refused.text("detail"))
                    .isEqualTo("The posting map has no account for revenue with customer class club.");
            lead.send(
                    "PUT",
                    "/api/ledger/posting-map",
                    map.formatted("", "4000"),
                    UUID.randomUUID().toString());
            assertThat(billed(more).status()).isEqualTo(200);
            var sheet = auditor.get("/api/ledger/accounts/" + code + "/sheet?from=2020-01-01&to=2999-12-31")
                    .body();
            assertThat(sheet.get("rows").get(0).get("balance").asString()).isEqualTo("-10.00");
            booksAgree();
        }

        private Map<String, JsonNode> lines(String document) {
            var lines = new TreeMap<String, JsonNode>();
            auditor.get("/api/ledger/entries?document=" + document)
                    .body()
                    .get("rows")
                    .get(0)
                    .get("lines")
                    .forEach(line -> lines.put(line.get("role").asString(), line));
            return lines;
        }

        /** Whoever changes a posted entry behind the application's back is found out. */
        @Test
        void areChainedSoThatATouchedEntryIsFound() {
            var order = cleared(1);
            gone(order);
            var line = jdbc.sql("select max(id) from journal_line where role = 'goods_out'")
                    .query(Long.class)
                    .single();
            var other = jdbc.sql("select max(id) from journal_line where role = 'inventory'")
                    .query(Long.class)
                    .single();
            jdbc.sql("update journal_line set amount = amount + 1 where id = ?")
                    .param(line)
                    .update();
            jdbc.sql("update journal_line set amount = amount - 1 where id = ?")
                    .param(other)
                    .update();
            var failing = failing();
            jdbc.sql("update journal_line set amount = amount - 1 where id = ?")
                    .param(line)
                    .update();
            jdbc.sql("update journal_line set amount = amount + 1 where id = ?")
                    .param(other)
                    .update();
            assertThat(failing).containsExactly("6", "7", "15");
            booksAgree();
        }

        private List<String> failing() {
            var failing = new java.util.ArrayList<String>();
            controller.post("/api/proofs", "{}").body().get("statements").forEach(s -> {
                if (!s.get("failures").isEmpty()) {
                    failing.add(s.get("no").asString());
                }
            });
            return failing;
        }
    }
}
