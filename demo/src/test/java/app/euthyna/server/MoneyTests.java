package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Goods, billing, money and the ledger through the whole stack; figures invented, rules from the domain reference. */
class MoneyTests extends OnServer {

    @Nested
    class Deposits {

        private String deposit(String order, String amount) {
            return deposited(order, amount).text("number");
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
            var payment = paid(invoice, "48.40").text("number");
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

        /** What was staged is sent off, and what left is billed, in one step each. */
        @Test
        void goOnWithTheDocumentsTheyCameTo() {
            var orders = List.of(cleared(3), cleared(4));
            var staging = controller.post(
                    "/api/batches/stagings",
                    "{\"orders\":[%s]}"
                            .formatted(orders.stream()
                                    .map(order -> "{\"order\":\"%s\",\"version\":%s}"
                                            .formatted(order, versionOf("/api/orders/" + order)))
                                    .collect(Collectors.joining(","))));
            assertThat(staging.text("following")).isEqualTo("DEPARTURE");
            var staged = "/api/batches/" + staging.text("id");
            assertThat(auditor.get(staged).body().get("following").isNull())
                    .as("whoever may not")
                    .isTrue();
            assertThat(clerk.post(staged + "/next-steps", "{}").code()).isEqualTo("not-authorised");
            var left = warehouse.post(staged + "/next-steps", "{}");
            assertThat(left.text("kind")).isEqualTo("DEPARTURE");
            assertThat(left.body().get("done").asInt()).isEqualTo(2);
            assertThat(left.body().get("following").isNull())
                    .as("the warehouse bills nothing")
                    .isTrue();
            assertThat(warehouse.post(staged + "/next-steps", "{}").code())
                    .as("they have left")
                    .isEqualTo("not-found");
            var billed = receivables.post("/api/batches/" + left.text("id") + "/next-steps", "{}");
            assertThat(billed.text("kind")).isEqualTo("BILLING");
            assertThat(billed.body()
                            .get("entries")
                            .valueStream()
                            .map(entry -> entry.get("subject").asString()))
                    .containsExactlyElementsOf(orders);
            assertThat(billed.body().get("done").asInt()).isEqualTo(2);
            assertThat(receivables
                            .post("/api/batches/" + billed.text("id") + "/next-steps", "{}")
                            .code())
                    .isEqualTo("not-found");
            orders.forEach(
                    order -> assertThat(auditor.get("/api/orders/" + order).text("state"))
                            .isEqualTo("COMPLETED"));
            booksAgree();
        }

        private String billed(String order) {
            return receivables
                    .post("/api/batches/billings", "{\"invoices\":[{\"orders\":[\"%s\"]}]}".formatted(order))
                    .text("id");
        }

        private int waiting(String batch) {
            return auditor.get("/api/batches/" + batch).body().get("waiting").asInt();
        }

        /** What waits is left where it was stopped, a single row may be left out, and the rest is done when told to. */
        @Test
        void areStoppedLeaveOutAndGoOn() throws Exception {
            var orders = List.of(cleared(2), cleared(3));
            orders.forEach(order -> gone(order));
            var done = cleared(1);
            gone(done);
            var batch = billed(done);
            assertThat(receivables
                            .post("/api/batches/" + batch + "/stops", "{}")
                            .body()
                            .get("stoppedBy")
                            .isNull())
                    .as("nothing waits")
                    .isTrue();
            for (int no = 0; no < orders.size(); no++) {
                jdbc.sql("""
                                insert into batch_entry (batch_id, no, subject_kind, subject, request, state, code, sentence)
                                values (?, ?, 'ORDER', ?, ?, 'WAITING', '', '')
                                """)
                        .params(
                                Long.valueOf(batch),
                                no + 2,
                                orders.get(no),
                                "{\"orders\":[\"%s\"],\"text\":\"\"}".formatted(orders.get(no)))
                        .update();
            }
            assertThat(warehouse.post("/api/batches/" + batch + "/stops", "{}").status())
                    .as("neither theirs nor for them to read")
                    .isEqualTo(404);
            assertThat(clerk.post("/api/batches/" + batch + "/stops", "{}").code())
                    .isEqualTo("not-authorised");
            assertThat(controller.post("/api/batches/" + batch + "/stops", "{}").text("stoppedBy"))
                    .isEqualTo(controller.username());
            jdbc.sql("""
                            insert into job (task_name, task_instance, execution_time, picked, version)
                            values ('batch', ?, timestamp with time zone '2020-01-01 00:00:00+00', false, 1)
                            """).param(batch).update();
            for (int tries = 0;
                    tries < 160
                            && jdbc.sql("select count(*) from job where task_name = 'batch' and task_instance = ?")
                                            .param(batch)
                                            .query(Long.class)
                                            .single()
                                    > 0;
                    tries++) {
                Thread.sleep(250);
            }
            assertThat(waiting(batch)).as("a server looked, and left it").isEqualTo(2);
            var out = receivables.post("/api/batches/" + batch + "/entries/2/exclusions", "{}");
            assertThat(out.body().get("leftOut").asInt()).isEqualTo(1);
            assertThat(receivables
                            .post("/api/batches/" + batch + "/entries/1/exclusions", "{}")
                            .body()
                            .get("entries")
                            .get(0)
                            .get("state")
                            .asString())
                    .as("it was done before")
                    .isEqualTo("DONE");
            assertThat(receivables
                            .post("/api/batches/" + batch + "/entries/9/exclusions", "{}")
                            .code())
                    .isEqualTo("not-found");
            receivables.post("/api/batches/" + batch + "/resumptions", "{}");
            for (int tries = 0; tries < 160 && waiting(batch) > 0; tries++) {
                Thread.sleep(250);
            }
            assertThat(auditor.get("/api/orders/" + orders.get(0)).text("state"))
                    .isEqualTo("CLEARED");
            assertThat(auditor.get("/api/orders/" + orders.get(1)).text("state"))
                    .isEqualTo("COMPLETED");
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
            jdbc.sql("update batch_entry set state = 'WAITING', request = ? where batch_id = ?")
                    .params("{\"orders\":[\"%s\"],\"text\":\"\"}".formatted(another), Long.valueOf(done.text("id")))
                    .update();
            jdbc.sql("""
                            insert into job (task_name, task_instance, execution_time, picked, picked_by, last_heartbeat, version)
                            values ('batch', ?, timestamp with time zone '2020-01-01 00:00:00+00', true, 'a server that is gone',
                                timestamp with time zone '2020-01-01 00:00:00+00', 1)
                            """).param(done.text("id")).update();
            for (int tries = 0;
                    tries < 160
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
}
