package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;

/**
 * Two people at one customer's limit, or at one shelf, in the same moment: what each of them could do alone must not
 * pass because both did it. Ten units are 121.00.
 */
class AtTheLimitTests extends OnServer {

    private static final int ROUNDS = 5;

    private final ExecutorService threads = Executors.newFixedThreadPool(2);
    private final CyclicBarrier together = new CyclicBarrier(2);

    @AfterEach
    void theyGoHome() {
        threads.shutdown();
    }

    /** Both at once, each beginning when the other does. */
    private List<Rest.Answer> both(Callable<Rest.Answer> one, Callable<Rest.Answer> other) throws Exception {
        var answers = new ArrayList<Rest.Answer>();
        for (var answer : threads.invokeAll(List.of(afterTheOther(one), afterTheOther(other)))) {
            answers.add(answer.get());
        }
        return answers;
    }

    private Callable<Rest.Answer> afterTheOther(Callable<Rest.Answer> deed) {
        return () -> {
            together.await();
            return deed.call();
        };
    }

    private void limit(String amount) {
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":%s}"
                                        .formatted(versionOf("/api/customers/" + customer), amount),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
    }

    private String state(String order) {
        return auditor.get("/api/orders/" + order).text("state");
    }

    private BigDecimal exposure() {
        return new BigDecimal(auditor.get("/api/customers/" + customer + "/position")
                .body()
                .get("exposure")
                .asString());
    }

    private String heldForItsPo(String po) {
        var order = clerk.post("/api/orders", order(po, 10)).text("number");
        assertThat(state(order)).isEqualTo("HELD");
        return order;
    }

    /** A release of the order as it is now, however late it comes. */
    private Callable<Rest.Answer> releasing(Rest by, String order) {
        var seen = versionOf("/api/orders/" + order);
        return () -> by.post(
                "/api/orders/" + order + "/waivers",
                "{\"version\":%s,\"reason\":\"two deliveries\",\"findings\":[\"duplicate-po\"]}".formatted(seen));
    }

    /** Two held orders of 121.00 each, and room for one: whoever releases first has it. */
    @RepeatedTest(ROUNDS)
    void oneOfTwoReleasesGoesThrough() throws Exception {
        var po = "F-" + UUID.randomUUID();
        clerk.post("/api/orders", order(po, 1));
        var first = heldForItsPo(po);
        var second = heldForItsPo(po);
        limit("254.09");
        var answers = both(releasing(controller, first), releasing(new Rest(mvc, "controller2", "CONTROLLER"), second));
        assertThat(answers.stream().map(answer -> answer.status() == 200 ? "done" : answer.code()))
                .as("the other one’s decision was on an order that stood better")
                .containsExactlyInAnyOrder("done", "stale-version");
        assertThat(List.of(state(first), state(second))).containsExactlyInAnyOrder("CLEARED", "HELD");
        assertThat(exposure()).isEqualByComparingTo("133.10");
    }

    /** Goods of 121.00 leave while an order is written that fits to the cent, or misses by one. */
    @RepeatedTest(ROUNDS)
    void goodsThatLeaveMeanwhileCountOnce() throws Exception {
        for (var fits : List.of(true, false)) {
            freshCustomerAndItem();
            var shipped = cleared(10);
            var note = staged(shipped);
            limit(fits ? "242.00" : "241.99");
            var answers = both(
                    () -> warehouse.post(
                            "/api/dispatches/" + note.text("number") + "/departure",
                            "{\"version\":%s}".formatted(note.text("version"))),
                    () -> clerk.post("/api/orders", order("F-" + UUID.randomUUID(), 10)));
            assertThat(answers).allMatch(answer -> answer.status() == 200);
            assertThat(state(answers.get(1).text("number"))).isEqualTo(fits ? "CLEARED" : "HELD");
            assertThat(exposure()).isEqualByComparingTo(fits ? "242.00" : "121.00");
        }
    }

    /** A count finds ten of a thousand while an order wants sixteen: no more is held than is there. */
    @RepeatedTest(ROUNDS)
    void aCountMeanwhileLeavesNoMoreReservedThanThereIs() throws Exception {
        var answers = both(
                () -> warehouse.post(
                        "/api/stock-counts", "{\"item\":\"%s\",\"counted\":10,\"reason\":\"counted\"}".formatted(item)),
                () -> clerk.post("/api/orders", order("F-" + UUID.randomUUID(), 16)));
        assertThat(answers.get(1).status()).isEqualTo(200);
        var shelf = auditor.get("/api/stock/" + item).body().get(0);
        var onHand = new BigDecimal(shelf.get("onHand").asString());
        var reserved = new BigDecimal(shelf.get("reserved").asString());
        assertThat(answers.get(0).status()).isEqualTo(200);
        assertThat(onHand).isEqualByComparingTo("10");
        assertThat(reserved).isLessThanOrEqualTo(onHand);
        assertThat(reserved).as("and none of it lies idle while somebody waits").isEqualByComparingTo("10");
    }

    /** Two stage the same reserved goods: one note has them. */
    @RepeatedTest(ROUNDS)
    void goodsAreStagedOnce() throws Exception {
        var order = cleared(10);
        var version = versionOf("/api/orders/" + order);
        var body = "{\"order\":\"%s\",\"version\":%s}".formatted(order, version);
        var answers =
                both(() -> warehouse.post("/api/dispatches", body), () -> controller.post("/api/dispatches", body));
        assertThat(answers.stream().map(answer -> answer.status() == 200 ? "done" : answer.code()))
                .containsExactlyInAnyOrder("done", "more-than-open");
        var shelf = auditor.get("/api/stock/" + item).body().get(0);
        assertThat(new BigDecimal(shelf.get("reserved").asString())).isEqualByComparingTo("10");
    }

    /** All of that leaves books that agree. */
    @Test
    void theBooksAgreeAfterwards() throws Exception {
        oneOfTwoReleasesGoesThrough();
        goodsThatLeaveMeanwhileCountOnce();
        booksAgree();
    }
}
