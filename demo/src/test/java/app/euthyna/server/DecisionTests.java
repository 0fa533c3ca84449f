package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is decided on orders, and by which rules: over REST, with a database behind. */
class DecisionTests extends OnDecisions {

    @Nested
    class ClearedTogether {

        private String sequence(List<String> orders, String accepted) {
            var asked = orders.stream()
                    .map(number -> "{\"number\":\"%s\",\"version\":%s%s}"
                            .formatted(
                                    number,
                                    version(number),
                                    accepted.isEmpty() ? "" : ",\"accepted\":[\"" + accepted + "\"]"))
                    .toList();
            return "{\"orders\":[%s],\"reason\":\"agreed by telephone\"}".formatted(String.join(",", asked));
        }

        private Rest.Answer clear(Rest as, String sequence, String fingerprint) {
            return as.post(
                    "/api/clearings", "{\"sequence\":%s,\"fingerprint\":\"%s\"}".formatted(sequence, fingerprint));
        }

        private List<String> outcomes(JsonNode answer) {
            var outcomes = new ArrayList<String>();
            answer.get("steps").forEach(step -> outcomes.add(step.get("outcome").asString()));
            return outcomes;
        }

        /**
         * Gross 121.00 each and a limit of 300: the second of two that repeat a PO finds the limit used up by the
         * first.
         */
        @Test
        void countEachOtherAndHoldWhatWouldPassTheLimitUnseen() {
            terms(",\"creditLimit\":300");
            submit("CT-1", 10);
            var second = submit("ct 1", 10);
            var third = submit("CT/1", 10);
            assertThat(List.of(state(second), state(third))).containsOnly("HELD");
            var asked = sequence(List.of(second, third), "");
            var preview = controller.post("/api/clearing-previews", asked).body();
            assertThat(outcomes(preview)).containsExactly("CLEARED", "HELD");
            assertThat(preview.get("steps").get(0).get("exposureAfter").asString())
                    .isEqualTo("242.00");
            assertThat(preview.get("steps").get(1).get("sentence").asString()).contains("EUR 63.00 over the limit");
            assertThat(List.of(state(second), state(third)))
                    .as("a preview changes nothing")
                    .containsOnly("HELD");
            assertThat(clear(controller, asked, "another").code()).isEqualTo("preview-changed");
            assertThat(clear(clerk, asked, preview.get("fingerprint").asString())
                            .code())
                    .isEqualTo("not-authorised");
            assertThat(outcomes(
                            clear(controller, asked, preview.get("fingerprint").asString())
                                    .body()))
                    .containsExactly("CLEARED", "HELD");
            assertThat(open(third)).containsExactly("credit-limit");
            var accepted = sequence(List.of(third), "");
            var again = controller.post("/api/clearing-previews", accepted).body();
            assertThat(outcomes(
                            clear(controller, accepted, again.get("fingerprint").asString())
                                    .body()))
                    .containsExactly("CLEARED");
        }

        @Test
        void waiveWhatGrewWhereItWasShownAndAccepted() {
            terms(",\"creditLimit\":300");
            submit("CA-1", 10);
            var both = List.of(submit("ca 1", 10), submit("CA/1", 10));
            var asked = sequence(both, "credit-limit");
            var preview = controller.post("/api/clearing-previews", asked).body();
            assertThat(outcomes(preview)).containsExactly("CLEARED", "CLEARED");
            assertThat(preview.get("steps").get(1).get("exposureAfter").asString())
                    .isEqualTo("363.00");
            assertThat(outcomes(
                            clear(controller, asked, preview.get("fingerprint").asString())
                                    .body()))
                    .containsExactly("CLEARED", "CLEARED");
        }

        @Test
        void tellForEachOrderWhyItWasNotDecided() {
            submit("CF-1", 1);
            var own = controller.post("/api/orders", order("cf 1", 1)).text("number");
            var other = submit("cf/1", 1);
            var preview = controller
                    .post("/api/clearing-previews", sequence(List.of(own, other), ""))
                    .body();
            assertThat(preview.get("steps").get(0).get("code").asString()).isEqualTo("four-eyes");
            assertThat(outcomes(preview)).containsExactly("REFUSED", "CLEARED");
            var stale = sequence(List.of(other), "").replaceAll("\"version\":\\d+", "\"version\":77");
            assertThat(controller
                            .post("/api/clearing-previews", stale)
                            .body()
                            .get("steps")
                            .get(0)
                            .get("code")
                            .asString())
                    .isEqualTo("stale-version");
        }

        /**
         * Whatever the orders: what is carried out is what was shown, and no limit is passed that the preview did not
         * show as passed.
         */
        @Test
        void neverPassALimitThatWasNotShown() {
            var seed = Long.getLong("seed", System.nanoTime());
            System.out.println("ClearedTogether: -Dseed=" + seed);
            var random = new Random(seed);
            for (int round = 0; round < 12; round++) {
                freshCustomerAndItem();
                var limit = new BigDecimal(100 + random.nextInt(1500));
                terms(",\"creditLimit\":" + limit);
                var po = "RC-" + round;
                submit(po, 1 + random.nextInt(10));
                var held = new ArrayList<String>();
                for (int at = 0; at < 2 + random.nextInt(5); at++) {
                    var number = submit(
                            (random.nextInt(3) == 0 ? "other" + at : po).toLowerCase(Locale.ROOT) + "/".repeat(at + 1),
                            1 + random.nextInt(60));
                    if (state(number).equals("HELD")) {
                        held.add(number);
                    }
                }
                if (held.isEmpty()) {
                    continue;
                }
                java.util.Collections.shuffle(held, random);
                var asked = sequence(held, random.nextInt(3) == 0 ? "credit-limit" : "");
                var as = "seed " + seed + ", round " + round + ": " + asked;
                var preview = controller.post("/api/clearing-previews", asked).body();
                var done = clear(controller, asked, preview.get("fingerprint").asString())
                        .body();
                assertThat(done.get("steps")).as(as).isEqualTo(preview.get("steps"));
                done.get("steps").forEach(step -> {
                    var cleared = step.get("outcome").asString().equals("CLEARED");
                    assertThat(state(step.get("number").asString()))
                            .as(as)
                            .isEqualTo(step.get("outcome").asString());
                    var over = new BigDecimal(step.get("exposureAfter").asString()).compareTo(limit) > 0;
                    var shown = new ArrayList<String>();
                    step.get("findings").forEach(f -> {
                        if (f.get("passes").asBoolean()) {
                            shown.add(f.get("check").asString());
                        }
                    });
                    assertThat(!cleared || !over || shown.contains("credit-limit"))
                            .as(as + step)
                            .isTrue();
                });
                var last = done.get("steps")
                        .get(done.get("steps").size() - 1)
                        .get("exposureAfter")
                        .asString();
                assertThat(clerk.get("/api/customers/" + customer + "/position")
                                .body()
                                .get("exposure")
                                .asString())
                        .as(as)
                        .isEqualTo(last);
            }
        }
    }

    @Nested
    class LetPass {

        /** What was seen is waived; the limit that another order used up since holds the order. */
        @Test
        void isWhatWasSeenAndNotWhatCameSince() {
            terms(",\"creditLimit\":300");
            submit("LP-1", 10);
            var held = submit("lp 1", 10);
            submit("LP-2", 10);
            var waived = controller.post(
                    "/api/orders/" + held + "/waivers",
                    "{\"version\":%s,\"findings\":[\"duplicate-po\"],\"reason\":\"asked\"}".formatted(version(held)));
            assertThat(waived.body().get("order").get("state").asString()).isEqualTo("HELD");
            assertThat(open(held)).containsExactly("credit-limit");
        }
    }

    @Nested
    class OthersTake {

        private String shortOf(String number) {
            return told(number, "unreserved", "brief");
        }

        private String told(String number, String check, String what) {
            for (var finding : clerk.get("/api/review/" + number).body().get("findings")) {
                if (finding.get("check").asString().equals(check)) {
                    return finding.get(what).asString();
                }
            }
            return "";
        }

        private long queued() {
            return jdbc.sql(
                            "select count(*) from recheck_queue q join customer c on c.id = q.customer_id where c.code = ?")
                    .param(customer)
                    .query(Long.class)
                    .single();
        }

        /** An order that can't be looked at keeps none of the others from their turn, and stays in the queue. */
        @Test
        void fromTheSameLimitAndOneThatCannotBeLookedAtStopsNobody() {
            terms(",\"creditLimit\":100");
            var broken = submit("OF-1", 20);
            var whole = submit("OF-2", 20);
            assertThat(told(whole, "credit-limit", "excess")).isEqualTo("142.00");
            var evidence = jdbc.sql(
                            "select f.evidence from finding f join sales_order o on o.id = f.order_id where o.number = ?")
                    .param(broken)
                    .query(String.class)
                    .single();
            var write =
                    "update finding set evidence = ? where order_id = (select id from sales_order where number = ?)";
            jdbc.sql(write).params("{", broken).update();
            assertThat(clerk.get("/api/orders/" + submit("OF-3", 5)).text("state"))
                    .isEqualTo("CLEARED");
            assertThat(told(whole, "credit-limit", "excess")).isEqualTo("202.50");
            assertThat(queued()).isPositive();
            jdbc.sql(write).params(evidence, broken).update();
            assertThat(clerk.get("/api/orders/" + submit("OF-4", 1)).text("state"))
                    .isEqualTo("CLEARED");
            assertThat(queued()).isZero();
            assertThat(told(broken, "credit-limit", "excess")).isEqualTo("214.60");
        }

        /** 1000 in store. What another customer's order takes is missing here, also while some is left. */
        @Test
        void fromTheSameShelfAndAHeldOrderShowsWhatIsLeftNow() {
            terms(",\"creditLimit\":100");
            var held = submit("OT-1", 1400);
            var enough = submit("OT-2", 700);
            assertThat(open(held)).containsExactly("credit-limit", "unreserved");
            assertThat(shortOf(held)).isEqualTo("short 400 of 1,400");
            assertThat(open(enough)).containsExactly("credit-limit");
            var seen = version(enough);
            var other = clerk.post(
                    "/api/orders", order("OT-3", 350).replace("\"" + customer + "\"", "\"" + anotherCustomer() + "\""));
            assertThat(other.text("state")).isEqualTo("CLEARED");
            assertThat(shortOf(held)).isEqualTo("short 750 of 1,400");
            assertThat(shortOf(enough)).isEqualTo("short 50 of 700");
            var waived = controller.post(
                    "/api/orders/" + enough + "/waivers",
                    "{\"version\":%s,\"findings\":[\"credit-limit\"],\"reason\":\"asked\"}".formatted(seen));
            assertThat(waived.code()).isEqualTo("stale-version");
        }

        private void clerksMayOrder(int granted) {
            assertThat(put(
                                    lead,
                                    "/api/items/" + item + "/quotas",
                                    "{\"scope\":\"SELLER\",\"key\":\"clerk\",\"from\":\"2020-01-01\","
                                            + "\"to\":\"2099-12-31\",\"granted\":%d}".formatted(granted))
                            .status())
                    .isEqualTo(200);
        }

        /** What a seller, or a region, may order is shared by customers who know nothing of one another. */
        @Test
        void fromTheSameQuotaAndAHeldOrderShowsWhatIsLeftNow() {
            clerksMayOrder(10);
            terms(",\"creditLimit\":100");
            var held = submit("OQ-1", 9);
            assertThat(open(held)).containsExactly("credit-limit");
            var other = clerk.post(
                    "/api/orders", order("OQ-2", 5).replace("\"" + customer + "\"", "\"" + anotherCustomer() + "\""));
            assertThat(other.text("state")).isEqualTo("CLEARED");
            assertThat(open(held)).containsExactly("credit-limit", "quota");
            clerksMayOrder(20);
            assertThat(open(held)).containsExactly("credit-limit");
        }

        /** What was ordered of a season is summed for them once, not for each. */
        @Test
        void fromTheSameQuotaAndManyHeldOrdersAreLookedAtTogether() {
            clerksMayOrder(10);
            terms(",\"creditLimit\":10");
            var held = List.of(submit("PLUM-17", 6), submit("KITE-4", 6), submit("SAGE-98", 6));
            var sums = Statements.of(() -> clerksMayOrder(5)).stream()
                    .filter(sql -> sql.contains("cancellation_line") && sql.contains("ordered_on between"))
                    .toList();
            assertThat(sums).as("once for them, once for the answer").hasSize(2);
            held.forEach(order -> assertThat(open(order)).containsExactly("credit-limit", "quota"));
        }

        /** Invoices from before the company's start are uses of a PO number, for orders that wait already too. */
        @Test
        void fromTheSamePoNumberBeforeTheStartAndAHeldOrderShowsIt() {
            terms(",\"creditLimit\":100");
            var held = submit("OP-77", 20);
            assertThat(open(held)).containsExactly("credit-limit");
            assertThat(clerk.uploadTo(
                                    "/api/imports/past-invoices",
                                    "customer,number,date,po,net\n%s,OLD-1,2026-01-05,op 77,100.00\n"
                                            .formatted(customer)
                                            .getBytes(StandardCharsets.UTF_8))
                            .status())
                    .isEqualTo(200);
            assertThat(open(held)).containsExactly("credit-limit", "duplicate-po");
        }

        /** What a plan would let go is looked at where the plan has other locks already. */
        @Test
        void fromTheSameLimitAndAPlanSaysWhoGoesWhenItIsGivenBack() {
            terms(",\"creditLimit\":100");
            var first = submit("OC-1", 8);
            var held = submit("OC-2", 5);
            assertThat(open(held)).containsExactly("credit-limit");
            var way = controller
                    .get("/api/unwind/ways?kind=ORDER&number=" + first)
                    .body()
                    .get("ways")
                    .get(0)
                    .get("intent")
                    .asString();
            var plan = controller.post(
                    "/api/unwind/plans",
                    "{\"kind\":\"ORDER\",\"number\":\"%s\",\"intent\":\"%s\",\"reasonCode\":\"other\",\"reason\":\"r\"}"
                            .formatted(first, way));
            assertThat(plan.status()).as(plan.body().toString()).isEqualTo(200);
            assertThat(plan.body().get("besides").toString()).contains(held);
            assertThat(open(held)).containsExactly("credit-limit");
        }

        /** Of ten, two customers want six each in the same second: one gets them. */
        @Test
        void fromTheSameQuotaAtOnceAndItIsNotPassed() throws Exception {
            var threads = Executors.newFixedThreadPool(2);
            var other = anotherCustomer();
            for (int round = 0; round < 20; round++) {
                freshItem();
                clerksMayOrder(10);
                var orders =
                        List.of(order("OR-" + round, 6), order("OR-" + round, 6).replace(customer, other));
                List<Callable<String>> both = orders.stream()
                        .map(order -> (Callable<String>)
                                () -> clerk.post("/api/orders", order).text("state"))
                        .toList();
                var states = new ArrayList<String>();
                for (var state : threads.invokeAll(both)) {
                    states.add(state.get());
                }
                assertThat(states).as("round %d", round).containsExactlyInAnyOrder("CLEARED", "HELD");
            }
            threads.shutdown();
        }
    }

    @Nested
    class Remedies {

        private JsonNode remedy(String number, String check, String kind) {
            for (var remedy :
                    controller.get("/api/review/" + number + "/remedies").body()) {
                if (remedy.get("check").asString().equals(check)
                        && remedy.get("kind").asString().equals(kind)) {
                    return remedy;
                }
            }
            throw new AssertionError("no remedy " + kind + " for " + check + " of " + number);
        }

        private Rest.Answer apply(String number, String check, String kind) {
            return controller.post(
                    "/api/orders/" + number + "/remedies",
                    "{\"version\":%s,\"check\":\"%s\",\"kind\":\"%s\"}".formatted(version(number), check, kind));
        }

        /** 12.10 a piece: of 20, the limit of 200 has room for 16. */
        @Test
        void ofALimitAreTheExactPaymentAndTheLargestQuantity() {
            terms(",\"creditLimit\":200");
            var held = submit("RM-1", 20);
            assertThat(remedy(held, "credit-limit", "PAYMENT").get("amount").asString())
                    .isEqualTo("42.00");
            assertThat(remedy(held, "credit-limit", "QUANTITY")
                            .get("order")
                            .get("gross")
                            .asString())
                    .isEqualTo("193.60");
            assertThat(apply(held, "credit-limit", "QUANTITY").text("state")).isEqualTo("CLEARED");
            assertThat(clerk.get("/api/orders/" + held + "/versions")
                            .body()
                            .get(0)
                            .get("differences")
                            .get(0)
                            .asString())
                    .isEqualTo("line 1 quantity from 20 to 16");
        }

        @Test
        void ofAShortageIsASplitWhosePartsAreOneUseOfThePo() {
            var flagged = submit("RM-2", 1400);
            assertThat(open(flagged)).containsExactly("unreserved");
            assertThat(remedy(flagged, "unreserved", "SPLIT")
                            .get("rest")
                            .get(0)
                            .get("quantity")
                            .asString())
                    .isEqualTo("400");
            assertThat(apply(flagged, "unreserved", "SPLIT").status()).isEqualTo(200);
            assertThat(open(flagged)).isEmpty();
            var rest = clerk.get("/api/orders?customer=" + customer)
                    .body()
                    .get("rows")
                    .get(0)
                    .get("number")
                    .asString();
            assertThat(rest).isNotEqualTo(flagged);
            assertThat(open(rest)).containsExactly("unreserved");
        }
    }
}
