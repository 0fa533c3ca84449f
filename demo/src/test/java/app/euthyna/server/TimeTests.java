package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

/** What dates can do, and what they can't: every command that dates a document meets the same rules. */
class TimeTests extends OnServer {

    /** A command with a date, and who sends it. */
    private record Dated(String path, String body, Rest by) {}

    /** One of each document, so that each can be sent with a date that it may not have. */
    private List<Dated> dated() {
        var order = cleared(4);
        var note = staged(cleared(1));
        gone(order);
        var invoice = billed(order).text("number");
        var open = cleared(1);
        var other = cleared(1);
        gone(other);
        var payment = receivables
                .post("/api/payments", "{\"customer\":\"%s\",\"amount\":5}".formatted(customer))
                .text("number");
        return List.of(
                new Dated("/api/orders", order("T-" + UUID.randomUUID(), 1).replaceFirst("\\{", "{DATE"), clerk),
                new Dated(
                        "/api/stock-receipts",
                        "{DATE\"item\":\"%s\",\"quantity\":1,\"unitCost\":1}".formatted(item),
                        warehouse),
                new Dated(
                        "/api/stock-counts",
                        "{DATE\"item\":\"%s\",\"counted\":900,\"reason\":\"x\"}".formatted(item),
                        warehouse),
                new Dated(
                        "/api/dispatches/" + note.text("number") + "/departure",
                        "{DATE\"version\":%s}".formatted(note.text("version")),
                        warehouse),
                new Dated("/api/invoices", "{DATE\"orders\":[\"%s\"]}".formatted(other), receivables),
                new Dated(
                        "/api/payments",
                        "{DATE\"customer\":\"%s\",\"amount\":1,\"allocate\":[{\"invoice\":\"%s\",\"amount\":1}]}"
                                .formatted(customer, invoice),
                        receivables),
                new Dated("/api/deposits", "{DATE\"order\":\"%s\",\"amount\":1}".formatted(open), receivables),
                new Dated(
                        "/api/credit-notes",
                        "{DATE\"ofInvoice\":\"%s\",\"reason\":\"x\",\"lines\":[{\"line\":1,\"quantity\":1}]}"
                                .formatted(invoice),
                        receivables),
                new Dated(
                        "/api/refunds",
                        "{DATE\"of\":\"%s\",\"version\":%s,\"reason\":\"x\"}"
                                .formatted(payment, versionOf("/api/payments/" + payment)),
                        receivables),
                new Dated(
                        "/api/unwind/plans",
                        "{DATE\"kind\":\"INVOICE\",\"number\":\"%s\",\"intent\":\"take-back-invoice\",\"reason\":\"x\"}"
                                .formatted(invoice),
                        controller),
                new Dated(
                        "/api/ledger/manual-entries",
                        "{DATE\"reason\":\"x\",\"lines\":[{\"account\":\"5300\",\"debit\":1},{\"account\":\"1000\",\"credit\":1}]}",
                        lead));
    }

    private static String codeOf(Dated command, LocalDate on) {
        return command.by()
                .post(command.path(), command.body().replace("DATE", "\"date\":\"%s\",".formatted(on)))
                .code();
    }

    @Test
    void nothingIsDatedAheadOrInAnotherCentury() {
        for (var command : dated()) {
            for (var ahead : List.of(realToday().plusDays(1), LocalDate.of(2126, 1, 1))) {
                assertThat(codeOf(command, ahead)).as(command + " on " + ahead).isEqualTo("dated-ahead");
            }
            for (var back : List.of(LocalDate.of(1926, 1, 1), LocalDate.of(1999, 12, 31))) {
                assertThat(codeOf(command, back)).as(command + " on " + back).isEqualTo("dated-too-far-back");
            }
            assertThat(codeOf(command, LocalDate.of(1500, 1, 1)))
                    .as(command.toString())
                    .isEqualTo("malformed");
        }
        booksAgree();
    }

    @Test
    void farBackIsForTheLeadWithAReason() {
        var far = realToday().minusDays(32);
        var body = "{\"customer\":\"%s\",\"amount\":5,\"date\":\"%s\"%%s}".formatted(customer, far);
        assertThat(receivables
                        .post("/api/payments", body.formatted(",\"reason\":\"found late\""))
                        .code())
                .isEqualTo("dated-too-far-back");
    }

    /** Whatever follows what is dated in order: as dynamic tests, each on documents of its own. */
    @TestFactory
    List<DynamicTest> nothingIsDatedBeforeWhatItComesFrom() {
        var yesterday = realToday().minusDays(1);
        return List.of(
                DynamicTest.dynamicTest("a dispatch before its order", () -> {
                    var note = staged(cleared(1));
                    assertThat(warehouse
                                    .post(
                                            "/api/dispatches/" + note.text("number") + "/departure",
                                            "{\"version\":%s,\"date\":\"%s\"}"
                                                    .formatted(note.text("version"), yesterday))
                                    .text("detail"))
                            .contains("can't be dated", "order SO-");
                }),
                DynamicTest.dynamicTest("an invoice before the departure", () -> {
                    var order = cleared(1);
                    gone(order);
                    assertThat(receivables
                                    .post(
                                            "/api/invoices",
                                            "{\"orders\":[\"%s\"],\"date\":\"%s\"}".formatted(order, yesterday))
                                    .code())
                            .isEqualTo("dated-before");
                }),
                DynamicTest.dynamicTest("a credit note before its invoice", () -> {
                    var order = cleared(1);
                    gone(order);
                    var invoice = billed(order).text("number");
                    assertThat(receivables
                                    .post("/api/credit-notes", """
                                            {"ofInvoice":"%s","reason":"x","date":"%s","lines":[{"line":1,"quantity":1}]}""".formatted(invoice, yesterday))
                                    .code())
                            .isEqualTo("dated-before");
                }),
                DynamicTest.dynamicTest("a refund before the payment", () -> {
                    var payment = receivables
                            .post("/api/payments", "{\"customer\":\"%s\",\"amount\":5}".formatted(customer))
                            .text("number");
                    assertThat(controller
                                    .post(
                                            "/api/refunds",
                                            "{\"of\":\"%s\",\"version\":%s,\"reason\":\"x\",\"date\":\"%s\"}"
                                                    .formatted(
                                                            payment, versionOf("/api/payments/" + payment), yesterday))
                                    .code())
                            .isEqualTo("dated-before");
                }),
                DynamicTest.dynamicTest("an order before the order it was started from", () -> {
                    var order = cleared(1);
                    assertThat(clerk.post(
                                            "/api/orders/started",
                                            "{\"kind\":\"ORDER\",\"number\":\"%s\",\"date\":\"%s\"}"
                                                    .formatted(order, yesterday))
                                    .code())
                            .isEqualTo("dated-before");
                }));
    }

    /** Invoiced and due, paid three days later: on the day between, all of it was overdue. */
    @Test
    void whatIsOverdueOnAPastDayIsWhatWasOpenThen() {
        var order = cleared(10);
        gone(order);
        var invoice = billed(order).text("number");
        itIsInDays(45);
        assertThat(paid(invoice, "100").status()).isEqualTo(200);
        assertThat(overdue(realToday().plusDays(44))).isEqualTo("121.00");
        assertThat(overdue(realToday().plusDays(45))).isEqualTo("21.00");
        assertThat(overdue(realToday().plusDays(20))).isEqualTo("nothing");
        assertThat(receivables
                        .get("/api/lists/ageing/rows?filter=asOf:at:"
                                + realToday().plusDays(46))
                        .code())
                .isEqualTo("dated-ahead");
    }

    private String overdue(LocalDate on) {
        var rows = receivables
                .get(
                        "/api/lists/ageing/rows?columns=pastDue&filter=isLate:any:YES&filter=customer:any:%s&filter=asOf:at:%s"
                                .formatted(customer, on))
                .body()
                .get("rows");
        return rows.isEmpty()
                ? "nothing"
                : rows.get(0).get("cells").get("pastDue").asString();
    }

    @Test
    void aSpanThatEndsBeforeItBeginsIsRefusedEverywhere() {
        for (var path : List.of(
                "/api/ledger/entries?",
                "/api/ledger/balances?",
                "/api/ledger/accounts/1000/sheet?",
                "/api/customers/" + customer + "/statement?")) {
            assertThat(auditor.get(path + "from=2026-03-02&to=2026-03-01").code())
                    .as(path)
                    .isEqualTo("incomplete");
            assertThat(auditor.get(path + "from=%2B999999999-12-31&to=2026-03-01")
                            .status())
                    .as(path)
                    .isEqualTo(400);
        }
        assertThat(auditor.get("/api/customers/" + customer + "/statement?from="
                                + realToday().plusDays(1))
                        .code())
                .isEqualTo("incomplete");
    }
}
