package app.euthyna.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** What a controller does, in a real browser on the packaged application. */
class JourneyTests extends Journey {

    @Test
    void mostUrgentHeldOrderIsWaivedShippedBilledPaidAndFoundAgainByItsPo() {
        page.navigate(application.url() + "/review?reason=duplicate-po");
        page.locator("a.list-item").first().click();
        assertThat(page.locator(".situation")).containsText("Held since");
        assertThat(page.locator(".situation")).containsText("the PO number");
        var number = page.locator("h1 a.mono").textContent();
        var po = page.locator(".page-head .mono").nth(1).textContent();

        page.keyboard().press("w");
        page.locator("#reason").fill("second call-off on the same PO, confirmed by telephone");
        page.keyboard().press("Enter");
        page.waitForCondition(
                () -> !number.equals(page.locator("h1 a.mono").first().textContent())
                        || page.locator(".situation").textContent().startsWith("Cleared"));
        page.navigate(application.url() + "/orders/" + number);
        assertThat(page.locator(".situation")).containsText("Cleared");

        button("Stage reserved goods").click();
        button("Send off").click();
        button("Create invoice").click();
        assertThat(page.getByText("Billed as invoice")).isVisible();

        page.keyboard().press("/");
        page.keyboard().type(po);
        page.getByRole(AriaRole.OPTION)
                .filter(new Locator.FilterOptions().setHasText(number))
                .click();
        page.waitForURL("**/trail/ORDER/" + number);
        assertThat(page.locator("table.rows").first()).containsText("Invoice");
        assertThat(page.getByText("All 13 statements hold for this trail")).isVisible();

        var invoice = page.locator("table.rows")
                .first()
                .getByRole(AriaRole.LINK)
                .filter(new Locator.FilterOptions().setHasText("Invoice"))
                .first()
                .textContent()
                .replace("Invoice ", "");
        page.navigate(application.url() + "/billing/invoices");
        assertThat(page.locator("tr.at")).containsText(invoice);
        page.getByText("Record its payment").click();
        var row = page.locator("tr").filter(new Locator.FilterOptions().setHasText(invoice));
        row.getByText("all", new Locator.GetByTextOptions().setExact(true)).click();
        page.getByLabel("Amount received")
                .fill(page.getByLabel("Allocate to " + invoice).inputValue());
        button("Record the payment").click();
        assertThat(page.getByText("all allocated")).isVisible();
        page.navigate(application.url() + "/trail/INVOICE/" + invoice);
        assertThat(page.locator(".facts")).containsText("0.00 open");
    }

    @Test
    void orderIsTypedWithTheKeyboardAndTheDryRunSaysWhatWouldHoldIt() {
        page.keyboard().press("n");
        page.getByLabel("Remark").fill("before lunch");
        page.navigate(application.url() + "/today");
        page.navigate(application.url() + "/orders/new");
        assertThat(page.getByLabel("Remark")).hasValue("before lunch");
        button("Start over").click();
        assertThat(page.getByLabel("Remark")).hasValue("");
        choose("Customer", "sandeel");
        page.getByLabel("Customer PO").fill("po 4417-B");
        choose("Item of line 1", "braid 12");
        page.getByLabel("Quantity of line 1").fill("20");
        assertThat(page.getByText("Would be held")).isVisible();
        assertThat(page.locator("aside")).containsText("PO used before");
        page.getByLabel("Customer PO").fill("brand new " + System.nanoTime());
        assertThat(page.getByText("Would be cleared")).isVisible();
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/SO-*");
        assertThat(page.locator(".situation")).containsText("Cleared.");
    }

    @Test
    void cancellingAnOrderThatHasLeftIsRefusedInWordsAndTheRestCanGo() {
        var api = Api.signIn(application.url(), "controller", "controller");
        var order = api.post(
                        "/api/orders",
                        Map.of("customer", "C126", "lines", List.of(Map.of("item", "RP-112", "quantity", 10))))
                .get("number")
                .asString();
        var dispatch = api.post(
                "/api/dispatches",
                Map.of(
                        "order",
                        order,
                        "version",
                        api.get("/api/orders/" + order).get("version").asLong(),
                        "lines",
                        List.of(Map.of("line", 1, "quantity", 4))));
        api.post(
                "/api/dispatches/" + dispatch.get("number").asString() + "/departure",
                Map.of("version", dispatch.get("version").asLong()));

        page.navigate(application.url() + "/orders/" + order);
        assertThat(page.locator("h1")).containsText(order);
        page.keyboard().press("u");
        page.getByLabel("Cancel order " + order).check();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("departed with dispatch");
        page.getByLabel("Cancel the rest of order " + order).check();
        assertThat(page.getByText("Two steps, all possible now")).isVisible();
        page.locator("#reason").fill("the yard has closed");
        assertThat(page.locator(".bar .button.first")).isEnabled();
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/trail/ORDER/" + order);
        assertThat(page.locator("table.rows").first()).containsText("cancelled: the yard has closed");
    }

    /** From the customer's call to the money back, by the keyboard where there is a key for it. */
    @Test
    void brokenLampsComeBackAndTheMoneyGoesBack() {
        var api = Api.signIn(application.url(), "controller", "controller");
        var order = gone(api, "lamps", 6);
        var number = billedAndPaid(api, Api.signIn(application.url(), "receivables", "receivables"), "C126", order);

        page.navigate(application.url() + "/billing/invoice/" + number);
        assertThat(page.locator("h1")).containsText(number);
        page.keyboard().press("u");
        page.getByLabel("Take back the goods of invoice " + number).check();
        page.getByLabel("Some lines").check();
        page.getByLabel("Quantity of line 1").fill("2");
        assertThat(page.getByText("One step now, then it waits for the goods to come back"))
                .isVisible();
        page.getByLabel("Refund it").check();
        assertThat(page.getByText("Refund the money")).isVisible();
        page.locator("#reason-code").selectOption("damaged");
        assertThat(page.locator(".bar .button.first")).isEnabled();
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/trail/INVOICE/" + number);

        page.navigate(application.url() + "/orders/" + order);
        assertThat(page.locator(".todo")).containsText("Receive the goods: waits for the goods to come back");
        page.locator(".todo a.mono").click();
        page.waitForURL("**/returns/return/RT-*");
        assertThat(page.getByLabel("Receive now, line 1")).hasValue("2");
        page.keyboard().press("Control+Enter");
        page.getByLabel("Restock, line 1").fill("1");
        page.getByLabel("Scrap, line 1").fill("1");
        assertThat(page.getByText("Record inspection")).isEnabled();
        page.keyboard().press("Control+Enter");
        assertThat(page.getByText("All goods received and inspected.")).isVisible();

        page.navigate(application.url() + "/trail/ORDER/" + order);
        assertThat(page.locator("table.rows").first()).containsText("1 restocked; 1 scrapped");
        assertThat(page.locator("table.rows").first()).containsText("of customer credit refunded");
        assertThat(page.getByText("All 13 statements hold for this trail")).isVisible();
    }

    /**
     * The same way without a plan, each step by whoever does it: clerk, warehouse, controller, receivables; the money
     * through the payment service.
     */
    @Test
    void lampsGoThroughFourHands() {
        var api = Api.signIn(application.url(), "controller", "controller");
        var order = gone(api, "four hands", 6);
        var number = billedAndPaid(api, api, "C126", order);
        var goods = clerkExpectsTwo(number);
        warehouseReceivesAndInspects(goods);
        controllerSendsTheOthersBack(goods);
        receivablesCreditsAndRefunds(goods);
    }

    private String clerkExpectsTwo(String number) {
        as("clerk");
        page.navigate(application.url() + "/billing/invoice/" + number);
        assertThat(page.locator("h1")).containsText(number);
        page.keyboard().press("b");
        page.getByLabel("Reason").selectOption("faulty");
        page.getByLabel("Customer’s remark").fill("two are dead");
        page.getByLabel("Quantity returned of").fill("9");
        page.keyboard().press("Control+Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("6 returnable; 9 were requested");
        page.getByLabel("Quantity returned of").fill("2");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/returns/return/RT-*");
        assertThat(page.locator(".situation")).containsText("Goods expected");
        assertThat(button("Receive into inspection")).hasCount(0);
        return page.locator("h1 .mono").textContent();
    }

    private void warehouseReceivesAndInspects(String goods) {
        as("warehouse");
        page.keyboard().press("/");
        page.keyboard().type(goods);
        page.getByRole(AriaRole.OPTION)
                .filter(new Locator.FilterOptions().setHasText(goods))
                .click();
        page.waitForURL("**/returns/return/" + goods);
        button("Other goods came").click();
        choose("Item received", "RP-112");
        page.getByLabel("Quantity").fill("1");
        page.keyboard().press("Enter");
        assertThat(page.getByText("it waits for a decision")).isVisible();
        page.keyboard().press("Control+Enter");
        page.getByLabel("Restock, line 1").fill("1");
        page.getByLabel("Scrap, line 1").fill("1");
        page.getByLabel("Remark, line 1").fill("serial 0417 burnt out");
        page.keyboard().press("Control+Enter");
        assertThat(page.locator("table.rows").first()).containsText("serial 0417 burnt out");
        assertThat(button("Credit received goods")).hasCount(0);
    }

    private void controllerSendsTheOthersBack(String goods) {
        as("controller");
        page.navigate(application.url() + "/returns/unexpected");
        var unexpected = page.locator(".unexpected").filter(new Locator.FilterOptions().setHasText(goods));
        unexpected
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Decide on 1"))
                .click();
        page.getByLabel("Reason for the decision").fill("not ours");
        unexpected
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Send back"))
                .click();
        assertThat(unexpected).hasCount(0);
    }

    private void receivablesCreditsAndRefunds(String goods) {
        as("receivables");
        page.navigate(application.url() + "/returns/to-credit");
        page.locator("tr")
                .filter(new Locator.FilterOptions().setHasText(goods))
                .getByRole(AriaRole.LINK)
                .first()
                .click();
        button("Credit received goods").click();
        assertThat(page.getByText("not yet settled")).isVisible();
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Refund").setExact(true))
                .click();
        page.locator("#reason").fill("wants the money");
        page.keyboard().press("Enter");
        assertThat(page.getByText("sent to the payment service")).isVisible();
        assertThat(page.getByText("refunded RF-")).isVisible();
        page.navigate(application.url() + "/billing/refunds");
        assertThat(page.locator("tr").filter(new Locator.FilterOptions().setHasText("wants the money")))
                .containsText("paid out");
        page.navigate(application.url() + "/trail/RETURN/" + goods);
        assertThat(page.getByText("All 13 statements hold for this trail")).isVisible();
    }

    /** An invoice at the wrong price is credited and rebilled; the figures are shown before. */
    @Test
    void wrongPriceIsCreditedAndBilledAgainInOneGo() {
        var api = Api.signIn(application.url(), "controller", "controller");
        var order = gone(api, "again", 5);
        var number = api.post("/api/invoices", Map.of("orders", List.of(order)))
                .get("number")
                .asString();
        page.navigate(application.url() + "/billing/invoice/" + number);
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Credit and rebill"))
                .click();
        page.getByLabel("New price, line 1").fill("3.10");
        assertThat(page.locator(".situation")).containsText("billed to");
        page.getByLabel("Reason (printed").fill("the price agreed was 3.10");
        assertThat(button("Credit and rebill")).isEnabled();
        page.keyboard().press("Control+Enter");
        page.waitForURL(url -> url.contains("/billing/invoice/") && !url.endsWith(number));
        assertThat(page.locator("table.rows").first()).containsText("15.50");
        page.navigate(application.url() + "/billing/invoice/" + number);
        assertThat(page.locator(".situation")).containsText("Paid in full");
    }

    @Test
    void fileIsImportedAndSaysWhatBecameOfEveryOrder() {
        page.navigate(application.url() + "/orders/import");
        page.getByLabel("File")
                .setInputFiles(new FilePayload(
                        "orders.csv",
                        "text/csv",
                        "reference,customer,po,item,quantity\nE-1,C126,E-1,RP-112,4\nE-2,nobody,E-2,RP-112,4\n"
                                .getBytes(StandardCharsets.UTF_8)));
        button("Import").click();
        assertThat(page.locator(".situation")).containsText("No orders imported");
        assertThat(page.locator("table.rows").first()).containsText("a customer code");
        page.getByLabel("If a row is wrong").selectOption("false");
        button("Import").click();
        assertThat(page.locator(".situation")).containsText("One order imported");
    }

    /**
     * Prices at zero hold them, so that no decision changes the case of another. Timed: the machine is to wait for the
     * controller.
     */
    @Test
    void aHundredOrdersAreDecidedWithTheKeyboard() {
        var clerk = Api.signIn(application.url(), "clerk", "clerk");
        var admin = Api.signIn(application.url(), "admin", "admin");
        for (int at = 0; at < 10; at++) {
            admin.post("/api/customers", Map.of("code", "TEN-" + at, "name", "Tenth " + at, "creditLimit", 1_000));
        }
        var held = new ArrayList<String>();
        for (int at = 0; at < 100; at++) {
            held.add(ordered(
                    clerk,
                    "TEN-" + at % 10,
                    "HUNDRED-%d-%d".formatted(at, at * 7919),
                    Map.of("item", "RP-112", "quantity", 1, "price", 0)));
        }
        page.navigate(application.url() + "/review?sort=REQUESTED&reason=zero-price&only=HELD");
        page.locator("a.list-item.at").waitFor();
        var began = System.nanoTime();
        var keys = List.of("w", "d", "s");
        for (int at = 0; at < 39; at++) {
            var number = page.locator("h1 a.mono").textContent();
            page.keyboard().press(keys.get(at % 3));
            page.locator("[role=dialog] #reason").waitFor();
            page.keyboard().type("as agreed");
            page.keyboard().press("Enter");
            page.waitForFunction(
                    "before => { const at = document.querySelector('h1 a.mono'); return at && at.textContent !=="
                            + " before && !document.querySelector('[role=dialog]'); }",
                    number);
        }
        System.out.printf(
                "%d orders decided one by one with the keyboard in %.1f s%n", 39, (System.nanoTime() - began) / 1e9);
        page.keyboard().press("Shift+X");
        page.keyboard().press("c");
        page.waitForURL("**/review/together*");
        page.getByText("will be cleared").first().waitFor();
        page.keyboard().type("samples for the show, agreed");
        page.keyboard().press("Enter");
        page.getByText("Bulk clearing").waitFor();
        var states = new TreeMap<String, Integer>();
        held.forEach(number ->
                states.merge(clerk.get("/api/orders/" + number).get("state").asString(), 1, Integer::sum));
        assertThat(states)
                .as("each was decided once, none was passed over")
                .containsEntry("DECLINED", 13)
                .containsEntry("DRAFT", 13)
                .doesNotContainKey("HELD");
    }

    @Test
    void clearingTogetherShowsTheRunningExposureBeforeItIsDone() {
        var api = Api.signIn(application.url(), "admin", "admin");
        api.post("/api/customers", Map.of("code", "RUN-1", "name", "Running Tide Yard", "creditLimit", 100));
        var clerk = Api.signIn(application.url(), "clerk", "clerk");
        var numbers = new ArrayList<String>();
        for (var po : List.of("RT-1", "RT-2")) {
            numbers.add(clerk.post(
                            "/api/orders",
                            Map.of(
                                    "customer",
                                    "RUN-1",
                                    "po",
                                    po,
                                    "lines",
                                    List.of(Map.of("item", "SV-01", "quantity", 2))))
                    .get("number")
                    .asString());
        }
        page.navigate(application.url() + "/review/together?orders=" + String.join(",", numbers));
        var rows = page.locator("table.rows tbody tr");
        assertThat(rows.nth(0)).containsText("will be cleared");
        assertThat(rows.nth(1)).containsText("stays held");
        rows.nth(1).getByRole(AriaRole.CHECKBOX).check();
        assertThat(rows.nth(1)).containsText("will be cleared");
        page.locator("#together-reason").fill("both agreed by telephone");
        page.keyboard().press("Enter");
        assertThat(page.locator(".situation")).containsText("Of 2, 2 can be cleared.");
        page.getByText("Log", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator(".situation")).containsText("Of 2 orders, 2 went through.");
        assertThat(page.locator("table.rows tbody tr").nth(1)).containsText(numbers.get(1));
        assertThat(clerk.get("/api/orders/" + numbers.get(1)).get("state").asString())
                .isEqualTo("CLEARED");
    }

    @Test
    void aBankStatementIsReadAndWhatIsCertainSettledAtOnce() {
        var statement = page.request()
                .get(application.url() + "/api/demo/bank-statement")
                .body();
        page.navigate(application.url() + "/billing/bank");
        page.getByLabel("Statement file").setInputFiles(new FilePayload("statement.xml", "application/xml", statement));
        assertThat(page.locator(".situation")).containsText("to be settled");
        assertThat(page.locator("table.rows tbody tr").first()).containsText("The creditor reference names invoice");
        button("Settle all").click();
        assertThat(page.getByText("Open the log")).isVisible();
        page.keyboard().press("Escape");
        assertThat(page.locator("table.rows tbody tr").first()).containsText("payment P-");
        page.navigate(application.url() + "/billing/bank");
        page.getByLabel("Statement file").setInputFiles(new FilePayload("again.xml", "application/xml", statement));
        assertThat(page.getByText("imported before")).isVisible();
    }

    @Test
    void aDepositIsRecordedAndSettlesTheInvoiceByItself() {
        var clerk = Api.signIn(application.url(), "clerk", "clerk");
        var order = ordered(clerk, "AHEAD", "SF-01", 2);
        page.navigate(application.url() + "/orders/" + order);
        page.getByLabel("Amount of the deposit").fill("30");
        page.getByText("received", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.locator("aside")).containsText("30.00 unapplied");
        button("Stage reserved goods").click();
        button("Send off").click();
        button("Create invoice").click();
        assertThat(page.locator("aside")).containsText("30.00 applied");
        page.locator("aside a.mono")
                .filter(new Locator.FilterOptions().setHasText("DP-"))
                .first()
                .click();
        assertThat(page.locator(".situation")).containsText("fully applied");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Trail"))
                .first()
                .click();
        assertThat(page.locator("table.rows").first()).containsText("of the deposit applied to the invoice");
    }

    @Test
    void goodsAreBilledWithoutAnOrderInOneStep() {
        page.navigate(application.url() + "/billing/direct");
        choose("Customer", "C127");
        choose("Item of line 1", "RP-112");
        page.getByLabel("Quantity of line 1").fill("5");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/billing/invoice/*");
        assertThat(page.locator("table.rows").first()).containsText("D-");
    }

    @Test
    void aChangeOfTheRulesIsSeenBeforeItIsMade() {
        page.context().clearCookies();
        page.navigate(application.url());
        page.getByLabel("Name").fill("lead");
        page.getByLabel("Password").fill("lead");
        page.keyboard().press("Enter");
        page.waitForURL("**/today");
        page.navigate(application.url() + "/rules");
        var row = page.locator("table.rows tbody tr").filter(new Locator.FilterOptions().setHasText("Short of stock"));
        row.getByRole(AriaRole.COMBOBOX).first().selectOption("STOP");
        assertThat(page.locator(".situation")).containsText("these rules would hold");
        assertThat(button("Publish rules")).isDisabled();
        page.getByLabel("Reason for the change").fill("nothing may wait in the spring");
        button("Publish rules").click();
        assertThat(page.getByText("Rules published")).isVisible();
        page.navigate(application.url() + "/rules/changes");
        assertThat(page.locator("table.rows tbody tr").first()).containsText("nothing may wait in the spring");
    }

    @Test
    void aQuoteIsWrittenTurnedIntoAnOrderAndFoundFromIt() {
        page.navigate(application.url() + "/orders/quotes");
        page.getByText("New quote").click();
        choose("Customer", "C126");
        page.getByLabel("Valid until")
                .fill(LocalDate.now(ZoneId.systemDefault()).plusDays(30).toString());
        choose("Item of line 1", "RP-112");
        page.getByLabel("Quantity of line 1").fill("30");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/agreements/Q-*");
        var quote = page.locator("h1 .mono").textContent();
        page.getByLabel("Quantity of line 1").fill("25");
        button("Create the order").click();
        page.waitForURL("**/orders/SO-*/change");
        assertThat(page.locator("h1")).containsText("Change order");
        assertThat(page.getByLabel("Quantity of line 1")).hasValue("25");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/SO-*");
        assertThat(page.locator("table.rows").first()).containsText("from quote " + quote);
    }
}
