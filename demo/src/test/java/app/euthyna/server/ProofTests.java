package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.flow.FoldedChains;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class ProofTests extends OnServer {

    private String shippedAndBilled() {
        var number =
                clerk.post("/api/orders", order("PR-" + UUID.randomUUID(), 5)).text("number");
        var version = clerk.get("/api/orders/" + number).text("version");
        var dispatch =
                warehouse.post("/api/dispatches", "{\"order\":\"%s\",\"version\":%s}".formatted(number, version));
        warehouse.post(
                "/api/dispatches/" + dispatch.text("number") + "/departure",
                "{\"version\":%s}".formatted(dispatch.text("version")));
        assertThat(receivables
                        .post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(number))
                        .status())
                .isEqualTo(200);
        return number;
    }

    @Test
    void agreeForTheBooksAndForTheChainAndFindWhatWasChangedBehindTheirBack() {
        var number = shippedAndBilled();
        assertThat(failing(books())).isEmpty();
        assertThat(failing(chain(number))).isEmpty();
        assertThat(figure(chain(number), 5)).isEqualTo("60.50");
        assertThat(FoldedChains.COMPARED)
                .as("chains were compared with the tables after each command")
                .hasPositiveValue();
        jdbc.sql("update journal_line set amount = amount - 1 where role = 'goods_out' and amount < 0 and"
                        + " entry_id = (select max(entry_id) from journal_line where role = 'goods_out')")
                .update();
        try {
            assertThat(failing(books())).contains(1, 7);
        } finally {
            jdbc.sql("update journal_line set amount = amount + 1 where role = 'goods_out' and amount < 0"
                            + " and entry_id = (select max(entry_id) from journal_line where role ="
                            + " 'goods_out')")
                    .update();
        }
        var quantity = "update dispatch_line set quantity = quantity %s 1 where root_order_id = (select id from"
                + " sales_order where number = '"
                + number + "')";
        jdbc.sql(quantity.formatted("-")).update();
        try {
            assertThat(failing(books())).contains(4);
            assertThat(failing(chain(number))).contains(4);
        } finally {
            jdbc.sql(quantity.formatted("+")).update();
        }
        assertThat(failing(books())).isEmpty();
    }

    /** A run looks at one moment: what others post meanwhile must not look like a difference. */
    @Test
    void holdAtEveryMomentWhileOthersPost() throws Exception {
        var threads = Executors.newFixedThreadPool(2);
        var posting = List.of(threads.submit(this::tenTimes), threads.submit(this::tenTimes));
        var runs = 0;
        while (posting.stream().anyMatch(p -> !p.isDone())) {
            assertThat(failing(books())).isEmpty();
            runs++;
        }
        for (var done : posting) {
            done.get();
        }
        threads.shutdown();
        assertThat(runs).isPositive();
    }

    private void tenTimes() {
        for (int at = 0; at < 10; at++) {
            shippedAndBilled();
        }
    }

    private JsonNode books() {
        return auditor.post("/api/proofs", "{}").body().get("statements");
    }

    private JsonNode chain(String number) {
        return auditor.get("/api/proofs/ORDER/" + number).body().get("statements");
    }

    private List<Integer> failing(JsonNode statements) {
        var failing = new ArrayList<Integer>();
        statements.forEach(statement -> {
            if (!statement.get("holds").asBoolean()) {
                failing.add(statement.get("no").asInt());
            }
        });
        return failing;
    }

    private String figure(JsonNode statements, int no) {
        for (var statement : statements) {
            if (statement.get("no").asInt() == no) {
                return statement.get("ledger").asString();
            }
        }
        throw new AssertionError("no statement " + no);
    }
}
