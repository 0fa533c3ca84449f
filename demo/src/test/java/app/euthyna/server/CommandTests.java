package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Commands that two people send at once, that are sent twice, or that can't be read; quotes and blanket orders. */
class CommandTests extends OnServer {

    @Nested
    class Commands {

        @Test
        void sentTwiceUnderOneKeyHaveTheirEffectOnce() {
            var key = UUID.randomUUID().toString();
            var first = clerk.send("POST", "/api/orders", order("K-1", 1), key);
            var second = clerk.send("POST", "/api/orders", order("K-1", 1), key);
            assertThat(second.text("number")).isEqualTo(first.text("number"));
            assertThat(orders()).isEqualTo(1);
            assertThat(clerk.send("POST", "/api/orders", order("K-2", 1), key).code())
                    .isEqualTo("idempotency-key-reused");
        }

        @Test
        void withoutAKeyAreRefused() {
            assertThat(clerk.send("POST", "/api/orders", order("K-1", 1), null).code())
                    .isEqualTo("idempotency-key-missing");
            assertThat(orders()).isZero();
        }

        @Test
        void againstAVersionThatHasPassedAreRefused() {
            var number = clerk.post("/api/orders", order("V-1", 2)).text("number");
            var line = "{\"no\":1,\"quantity\":3}";
            var change = clerk.send(
                    "PUT", "/api/orders/" + number, "{\"version\":99,\"lines\":[%s]}".formatted(line), "k" + number);
            assertThat(change.status()).isEqualTo(409);
            assertThat(change.code()).isEqualTo("stale-version");
        }

        @Test
        void thatMakeNoSenseAreToldInWordsAndChangeNothing() {
            assertThat(clerk.post("/api/orders", "{\"customer\":").code()).isEqualTo("malformed");
            assertThat(clerk.post("/api/orders", "{\"customer\":\"\",\"lines\":[]}")
                            .body()
                            .get("detail")
                            .asString())
                    .startsWith("customer:");
            assertThat(clerk.post("/api/orders", order("N", 1).replace(item, "nothing"))
                            .code())
                    .isEqualTo("not-found");
            assertThat(clerk.post("/api/orders", order("N", 1).replace("\"quantity\":1", "\"quantity\":1.2345"))
                            .body()
                            .get("detail")
                            .asString())
                    .contains("at most 3 decimals");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":1,\"surprise\":1")))
                    .isEqualTo("lines[0].surprise is not a field of this request.");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":\"many\"")))
                    .isEqualTo("lines[0].quantity: a number like 12.50, of at most 13 digits before the point, is"
                            + " expected.");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":1e30")))
                    .startsWith("lines[0].quantity: a number");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"requestedOn\":\"2026-02-30\"")))
                    .isEqualTo("lines[0].requestedOn: a date like 2026-03-02 is expected.");
            assertThat(detail("{\"customer\":\"%s\",\"lines\":[null]}".formatted(customer)))
                    .isEqualTo("lines[0]: a value is missing.");
            assertThat(detail(order("N", 1)
                            .replace("\"quantity\":1", "\"quantity\":999999999999,\"price\":999999999999")))
                    .isEqualTo("A figure or its total is too large to post.");
            assertThat(clerk.get("/api/orders?after=bm9uc2Vuc2U").code()).isEqualTo("incomplete");
            assertThat(orders()).isZero();
        }

        private String detail(String order) {
            var answer = clerk.post("/api/orders", order);
            assertThat(answer.status()).isEqualTo(400);
            return answer.text("detail");
        }

        private long orders() {
            return jdbc.sql("select count(*) from sales_order o join customer c on c.id = o.customer_id where c.code ="
                            + " ?")
                    .param(customer)
                    .query(Long.class)
                    .single();
        }
    }

    @Nested
    class TwoClerks {

        /** Fifty times the same PO in the same second from both: one goes through, never two. */
        @Test
        void sendingTheSamePoNeverGetTwoOrdersThrough() throws Exception {
            var threads = Executors.newFixedThreadPool(2);
            for (int round = 0; round < 50; round++) {
                if (round % 10 == 0) {
                    // each order has those that wait beside it looked at again
                    freshCustomerAndItem();
                }
                var po = "RACE-" + round;
                List<Callable<Rest.Answer>> both = List.of(
                        () -> clerk.post("/api/orders", order(po, 1)),
                        () -> new Rest(mvc, "clerk2", "CLERK")
                                .post("/api/orders", order("po " + po.toLowerCase(Locale.ROOT), 1)));
                var states = new ArrayList<String>();
                for (var answer : threads.invokeAll(both)) {
                    states.add(answer.get().text("state"));
                }
                assertThat(states).as(po).containsExactlyInAnyOrder("CLEARED", "HELD");
            }
            threads.shutdown();
        }
    }

    @Nested
    class Agreements {

        private String state(String number) {
            return clerk.get("/api/orders/" + number).text("state");
        }

        private Rest.Answer agree(String terms) {
            var version = clerk.get("/api/customers/" + customer).text("version");
            return lead.send(
                    "PUT",
                    "/api/customers/" + customer + "/terms",
                    "{\"version\":%s%s}".formatted(version, terms),
                    UUID.randomUUID().toString());
        }

        /**
         * Gross 121.00 each: a limit of 250 lends to two; the newest goes first, and what was let go oldest first comes
         * back.
         */
        @Test
        void thatAreTightenedHoldClearedOrdersNewestFirst() {
            var numbers = List.of("A", "B", "C").stream()
                    .map(po -> clerk.post("/api/orders", order("AG-" + po + UUID.randomUUID(), 10))
                            .text("number"))
                    .toList();
            assertThat(numbers).allMatch(number -> state(number).equals("CLEARED"));
            assertThat(agree(",\"creditLimit\":250").status()).isEqualTo(200);
            assertThat(numbers).extracting(this::state).containsExactly("CLEARED", "CLEARED", "HELD");
            agree(",\"blocked\":\"disputes every bill\"");
            assertThat(numbers).allMatch(number -> state(number).equals("HELD"));
            agree(",\"creditLimit\":130");
            assertThat(numbers).extracting(this::state).containsExactly("CLEARED", "HELD", "HELD");
            agree("");
            assertThat(numbers).allMatch(number -> state(number).equals("CLEARED"));
            assertThat(lead.send(
                                    "PUT",
                                    "/api/customers/" + customer + "/terms",
                                    "{\"version\":0}",
                                    UUID.randomUUID().toString())
                            .code())
                    .isEqualTo("stale-version");
        }
    }
}
