package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class BooksTests extends OnServer {

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
            var refused =
                    receivables.post("/api/invoices", "{\"orders\":[\"%s\"],\"date\":\"%s\"}".formatted(order, month));
            assertThat(refused.code()).isEqualTo("period-closed");
            assertThat(refused.text("detail"))
                    .isEqualTo("The books are closed through 31 Jan %1$d; no entry can be dated 31 Jan %1$d."
                            .formatted(realToday().getYear()));
            assertThat(lead.post("/api/ledger/periods/reopenings", "{}").code()).isEqualTo("incomplete");
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

    private Rest.Answer mapped(String row) {
        return lead.send(
                "PUT", "/api/ledger/posting-map", row, UUID.randomUUID().toString());
    }

    @Test
    void sayWhichRowGaveAnAccountAndNameACombinationThatHasNone() {
        var map = "{\"role\":\"revenue\",\"customerClass\":\"%s\",\"account\":\"%s\",\"reason\":\"told apart from"
                + " now on\"}";
        assertThat(mapped(map.formatted("", "nowhere")).code()).isEqualTo("not-found");
        var code = "4" + UUID.randomUUID().toString().substring(0, 6);
        lead.post("/api/ledger/accounts", "{\"code\":\"%s\",\"name\":\"Sales to clubs\"}".formatted(code));
        assertThat(mapped(map.formatted("club", code)).code())
                .as("services of clubs would have two accounts")
                .isEqualTo("ambiguous-posting-rule");
        mapped(map.formatted("club", code).replace("{", "{\"itemClass\":\"service\","));
        mapped(map.formatted("club", code));
        jdbc.sql("update customer set customer_class = 'club' where code = ?")
                .param(customer)
                .update();
        var order = cleared(1);
        gone(order);
        var invoice = billed(order).text("number");
        var revenue = lines(invoice).get("revenue");
        assertThat(revenue.get("account").asString()).isEqualTo(code);
        assertThat(revenue.get("explained").get(0).get("row").asString()).isEqualTo("revenue with customer class club");
        assertThat(revenue.get("explained").get(0).get("asked").asString()).isEqualTo("customer class club");
        assertThat(lines(invoice).get("cogs").get("explained").get(0).get("row").asString())
                .isEqualTo("cost of sales, any");
        mapped(map.formatted("", ""));
        mapped(map.formatted("club", ""));
        var more = cleared(1);
        gone(more);
        var refused = billed(more);
        assertThat(refused.code()).isEqualTo("no-posting-rule");
        assertThat(refused.text("detail"))
                .isEqualTo("The posting map has no account for revenue with customer class club.");
        mapped(map.formatted("", "4000"));
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

    /** What is summed up of a day is held against the entries of the day. */
    @Test
    void areSummedUpByDayAsTheyWerePosted() {
        gone(cleared(1));
        for (var change : List.of("debit = debit + 1, credit = credit + 1", "debit = debit - 1, credit = credit - 1")) {
            jdbc.sql("update journal_day set " + change + " where role = 'goods_out'")
                    .update();
            if (change.startsWith("debit = debit + 1")) {
                assertThat(failing()).containsExactly("15");
            }
        }
        booksAgree();
    }

    /** What is kept of a customer is held against the invoices: what is open, on how many, and since when. */
    @Test
    void areAddedUpByCustomerAsTheirInvoicesStand() {
        var order = cleared(1);
        gone(order);
        billed(order);
        for (var change : List.of(
                "still = still + %d",
                "invoices = invoices + %d", "oldest_due_on = oldest_due_on + interval '%d' day")) {
            for (var by : List.of(1, -1)) {
                jdbc.sql("update customer_open set " + change.formatted(by)).update();
                if (by == 1) {
                    assertThat(failing()).as(change).containsExactly("5");
                }
            }
        }
        booksAgree();
        jdbc.sql("delete from customer_open").update();
        assertThat(failing()).containsExactly("5");
        jdbc.sql("""
                insert into customer_open (customer_id, invoices, still, oldest_due_on)
                select customer_id, count(*), sum(open_amount), min(due_on) from invoice
                where open_amount <> 0 group by customer_id""").update();
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
