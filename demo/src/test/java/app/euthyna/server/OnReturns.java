package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.AfterEach;

/** What tests of returns do again and again. */
abstract class OnReturns extends OnServer {

    record Sold(String order, String dispatch, String invoice) {}

    Sold sold(int quantity) {
        var order = cleared(quantity);
        return new Sold(order, gone(order), billed(order).text("number"));
    }

    static String line(String kind, String number, int line, String quantity) {
        return "{\"%s\":\"%s\",\"line\":%d,\"quantity\":%s}".formatted(kind, number, line, quantity);
    }

    String allowed(String reason, String... lines) {
        var answer = clerk.post(
                "/api/returns", "{\"lines\":[%s],\"reason\":\"%s\"}".formatted(String.join(",", lines), reason));
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.text("number");
    }

    void received(String goods) {
        assertThat(warehouse.post("/api/returns/" + goods + "/receipts", "{}").status())
                .isEqualTo(200);
    }

    List<String> credited(String body) {
        var answer = receivables.post("/api/credit-notes", body);
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.body().get("numbers").valueStream().map(n -> n.asString()).toList();
    }

    void paid(Sold sold) {
        var open = auditor.get("/api/invoices/" + sold.invoice()).text("open");
        assertThat(paid(sold.invoice(), open).status()).isEqualTo(200);
    }

    @AfterEach
    void rulesAreTheStandardOnes() {
        jdbc.sql("delete from company_rules").update();
        jdbc.sql("update simulated_payment_service set behaviour = 'PAYS'").update();
    }

    List<String> stillToDo(String kind, String number) {
        return auditor.get("/api/trails/" + kind + "/" + number)
                .body()
                .get("stillToDo")
                .valueStream()
                .map(todo -> todo.get("what").asString())
                .toList();
    }

    long lane(String code) {
        return auditor.get("/api/today")
                .body()
                .get("lanes")
                .valueStream()
                .filter(l -> l.get("lane").asString().equals(code))
                .findFirst()
                .orElseThrow()
                .get("count")
                .asLong();
    }
}
