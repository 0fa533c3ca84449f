package app.euthyna.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** That the browser takes nothing from whoever works in it: keys, places, figures, what was typed. */
class BrowserTests extends Journey {

    /** The answer is lost on its way: pressed again, the command is not carried out again. */
    @Test
    void aPaymentWhoseAnswerWasLostIsRecordedOnce() {
        var api = Api.signIn(application.url(), "auditor", "auditor");
        recordsAPayment("C131", "12.34");
        page.route("**/api/payments", route -> {
            route.fetch();
            route.abort();
        });
        button("Record the payment").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The server did not answer");
        assertThat(page.getByLabel("Amount received")).hasValue("12.34");
        page.unroute("**/api/payments");
        button("Record the payment").click();
        assertThat(page.getByText("12.34 on account")).isVisible();
        assertThat(payments(api, "C131", "12.34")).hasSize(1);
    }

    /** Pressed faster than the page follows, the keys open the order that they stand on. */
    @Test
    void keysOpenWhereTheyStandHoweverFastTheyArePressed() {
        var third = Api.signIn(application.url(), "controller", "controller")
                .get("/api/review?sort=PRIORITY")
                .get("rows")
                .get(2)
                .get("number")
                .asString();
        page.navigate(application.url() + "/review");
        page.locator("a.list-item.at").waitFor();
        page.keyboard().press("j");
        page.keyboard().press("j");
        page.keyboard().press("Enter");
        page.waitForURL("**/orders/SO-*");
        assertThat(page.url()).endsWith("/orders/" + third);
    }

    /** Without a connection the page says so at once, keeps what was typed and goes on when it is back. */
    @Test
    void withoutAConnectionNothingIsLost() {
        var api = Api.signIn(application.url(), "auditor", "auditor");
        recordsAPayment("C132", "43.21");
        page.context().setOffline(true);
        button("Record the payment").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The server did not answer");
        page.context().setOffline(false);
        button("Record the payment").click();
        assertThat(page.getByText("43.21 on account")).isVisible();
        assertThat(payments(api, "C132", "43.21")).hasSize(1);
    }

    /** The session ends while an order is typed: its password later the order is as it was, and goes on. */
    @Test
    void whatWasTypedOutlivesTheSession() {
        page.navigate(application.url() + "/orders/new");
        page.getByLabel("Remark").fill("typed before the session ended");
        page.context().clearCookies(new BrowserContext.ClearCookiesOptions().setName("EUTHYNA"));
        page.getByLabel("Customer", new Page.GetByLabelOptions().setExact(true)).fill("sandeel");
        assertThat(page.getByText("Your session is over")).isVisible();
        page.getByLabel("Password").fill("not the password");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).isVisible();
        page.getByLabel("Password").fill("controller");
        page.keyboard().press("Enter");
        assertThat(page.getByText("Your session is over")).isHidden();
        assertThat(page.getByLabel("Remark")).hasValue("typed before the session ended");
        choose("Customer", "sandeel");
        choose("Item of line 1", "braid 12");
        page.getByLabel("Quantity of line 1").fill("1");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/SO-*");
        assertThat(page.locator("main")).containsText("typed before the session ended");
    }

    @Test
    void whatIsNotSavedAsksBeforeOneLeaves() {
        recordsAPayment("C126", "99");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Review"))
                .first()
                .click();
        assertThat(page.getByText("Not saved yet")).isVisible();
        page.keyboard().press("Enter");
        assertThat(page.getByText("Not saved yet")).isHidden();
        assertThat(page.getByLabel("Amount received")).hasValue("99");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Review"))
                .first()
                .click();
        button("Leave without saving").click();
        page.waitForURL("**/review**");
    }

    /** A payment dated yesterday, and the one after it dated today. */
    @Test
    void documentsAreDatedOnThePageThatPostsThem() {
        var api = Api.signIn(application.url(), "auditor", "auditor");
        var today = LocalDate.parse(api.get("/api/session").get("today").asString());
        var yesterday = today.minusDays(1);
        recordsAPayment("C133", "5.55");
        // our own sheets win over those of the library, whichever comes first
        assertThat(page.getByLabel("Date of documents")).hasCSS("border-bottom-style", "solid");
        page.getByLabel("Date of documents")
                .fill(yesterday.format(DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH)));
        page.keyboard().press("Enter");
        assertThat(page.locator(".posting-date")).containsText("Documents are dated");
        page.keyboard().press("Escape");
        button("Record the payment").click();
        assertThat(page.getByText("5.55 on account")).isVisible();
        button("Today").click();
        assertThat(page.locator(".posting-date.back")).isHidden();
        page.getByLabel("Amount received").fill("6.66");
        button("Record the payment").click();
        assertThat(page.getByText("6.66 on account")).isVisible();
        assertThat(payments(api, "C133", "5.55")).containsExactly(yesterday.toString());
        assertThat(payments(api, "C133", "6.66")).containsExactly(today.toString());
    }

    /** "1,234" is refused where a comma is no decimal mark of the company's; "1,234.50" is read, and shown as read. */
    @Test
    void figuresAreReadAsTheCompanyWritesThem() {
        var api = Api.signIn(application.url(), "auditor", "auditor");
        recordsAPayment("C134", "1,23");
        page.keyboard().press("Tab");
        assertThat(page.getByLabel("Amount received")).hasAttribute("aria-invalid", "true");
        button("Record the payment").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("amount");
        assertThat(page.getByLabel("Amount received")).hasValue("1,23");
        page.getByLabel("Amount received").fill("1,234.50");
        button("Record the payment").click();
        assertThat(page.getByText("1,234.50 on account")).isVisible();
        assertThat(payments(api, "C134", "1234.50")).hasSize(1);
    }

    /** The numbers of the orders in Review, in the sequence of the list. */
    private List<String> inReview() {
        page.navigate(application.url() + "/review");
        page.locator("a.list-item.at").waitFor();
        page.locator("h1 a.mono").waitFor();
        return page.locator("a.list-item .mono").allTextContents();
    }

    /**
     * Whatever is pressed before the case is there is for the order that the keys stand on, not for the one before it.
     */
    @Test
    void keysAreForTheOrderThatTheyStandOnThoughItsCaseIsOnItsWay() {
        page.addInitScript("const ask = window.fetch; window.fetch = async (...asked) => {"
                + " if (/api.review.SO-/.test(asked[0].url ?? asked[0])) await new Promise(on => setTimeout(on, 400));"
                + " return ask(...asked); }");
        var orders = inReview();
        press("j", "u");
        page.waitForURL("**/unwind/ORDER/*");
        assertThat(page.url()).endsWith("/unwind/ORDER/" + orders.get(1));
        inReview();
        press("j", "j", "j", "s");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("Send back order " + orders.get(3));
        page.keyboard().press("Escape");
        press("k", "x", "k", "x", "c");
        page.waitForURL("**/review/together*");
        assertThat(page.url()).endsWith("orders=" + orders.get(1) + "," + orders.get(2));
    }

    private void press(String... keys) {
        for (var key : keys) {
            page.keyboard().press(key);
        }
    }

    /** Ticked with the mouse, the next key is the list's. */
    @Test
    void keysGoOnAfterABoxWasTickedWithTheMouse() {
        var orders = inReview();
        page.getByLabel("Select " + orders.get(2)).click();
        press("j", "x", "c");
        page.waitForURL("**/review/together*");
        assertThat(page.url()).endsWith("orders=" + orders.get(1) + "," + orders.get(2));
    }

    /** A button in a row is about its row, not about the one that the keys stand on. */
    @Test
    void aButtonReachedWithTheKeysMovesItsOwnOrder() {
        var orders = inReview();
        press("x", "j", "x", "j", "x", "c");
        page.getByLabel(orders.get(2) + " earlier").focus();
        page.keyboard().press("Enter");
        page.waitForURL(url -> url.endsWith(String.join("%2C", orders.get(0), orders.get(2), orders.get(1))));
    }

    /** Below tabs too the arrow keys scroll the list, and Back leads to where one was. */
    @Test
    void aListBelowTabsScrollsAndIsFoundAsItWas() {
        page.navigate(application.url() + "/billing/payments");
        var last = page.locator("main tbody a.mono").last();
        last.waitFor();
        page.keyboard().press("ArrowDown");
        page.waitForFunction("() => " + SCROLLED + " > 0");
        last.scrollIntoViewIfNeeded();
        var before = page.evaluate(SCROLLED);
        last.click();
        page.waitForURL(url -> !url.endsWith("/billing/payments"));
        page.goBack();
        page.waitForFunction("before => " + SCROLLED + " === before", before);
    }

    private static final String SCROLLED =
            "Math.max(...[...document.querySelectorAll('.page-scroll')].map(part => part.scrollTop))";

    /** The ways are chosen with their digits; what is typed into the remark needs no new plan. */
    @Test
    void aPlanIsChosenAndCarriedOutWithTheKeys() {
        var clerk = Api.signIn(application.url(), "clerk", "clerk");
        var order = ordered(clerk, "KEYS", "RP-112", 2);
        page.navigate(application.url() + "/unwind/ORDER/" + order);
        page.locator(".way").first().waitFor();
        page.keyboard().press("2");
        assertThat(button("Cancel order " + order)).isEnabled();
        page.getByLabel("Remark").fill("not wanted any more");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/trail/ORDER/" + order);
        assertThat(clerk.get("/api/orders/" + order).get("state").asString()).isEqualTo("CANCELLED");
    }

    /**
     * A credit note posted by mistake: from its page with two keys to the plan, and carried out; then it is said so.
     */
    @Test
    void aCreditNoteIsTakenBackFromItsPage() {
        var lead = Api.signIn(application.url(), "lead", "lead");
        var order = gone(lead, "CREDIT", 2);
        var invoice = lead.post("/api/invoices", Map.of("orders", List.of(order)))
                .get("number")
                .asString();
        var credit = lead.post(
                        "/api/credit-notes",
                        Map.of(
                                "ofInvoice",
                                invoice,
                                "reason",
                                "a typing error",
                                "lines",
                                List.of(Map.of("line", 1, "quantity", 1))))
                .get("numbers")
                .get(0)
                .asString();
        page.navigate(application.url() + "/billing/credit-note/" + credit);
        page.getByText("a typing error").first().waitFor();
        page.keyboard().press("u");
        assertThat(button("Take back credit note " + credit)).isEnabled();
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/trail/CREDIT_NOTE/" + credit);
        assertThat(page.getByText("taken back").first()).isVisible();
        page.navigate(application.url() + "/billing/credit-note/" + credit);
        assertThat(page.getByText("it counts no more")).isVisible();
        assertThat(lead.get("/api/invoices/" + invoice).get("open").asString())
                .isEqualTo(lead.get("/api/invoices/" + invoice).get("gross").asString());
    }

    /** A quantity that can't be read is refused, not left out. */
    @Test
    void noQuantityIsLeftOutBecauseItCannotBeRead() {
        var lead = Api.signIn(application.url(), "lead", "lead");
        var order = gone(lead, "HALF", 3);
        page.navigate(application.url() + "/billing/to-bill?filter=number:is:" + order);
        page.getByLabel("Select " + order).check();
        button("In other quantities").click();
        page.getByLabel("Quantity of " + order + "/1").fill("1,5");
        page.keyboard().press("Tab");
        assertThat(page.getByLabel("Quantity of " + order + "/1")).hasAttribute("aria-invalid", "true");
        page.keyboard().press("Enter");
        assertThat(page.getByText("a number like 12.50")).isVisible();
        lead.post("/api/invoices", Map.of("orders", List.of(order)));
        page.navigate(application.url() + "/returns/new?order=" + order);
        page.locator("table .figure-input input").fill("1,5");
        page.locator("#return-reason").selectOption("damaged");
        page.keyboard().press("Control+Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("a number like 12.50");
        page.addInitScript("const ask = window.fetch; window.plans = []; window.fetch = async (...asked) => {"
                + " if (/unwind.plans/.test(asked[0].url)) window.plans.push(await asked[0].clone().text());"
                + " return ask(...asked); }");
        page.navigate(application.url() + "/unwind/ORDER/" + order);
        page.getByLabel("Take back the goods of order " + order).check();
        page.getByLabel("Some lines").check();
        page.getByLabel("Quantity of line 1").fill("1,5");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("a number like 12.50");
        assertThat(page.evaluate("window.plans.join()").toString())
                .as("no plan is asked for before a quantity stands there")
                .contains("\"quantity\":\"1,5\"")
                .doesNotContain("\"lines\":[]");
    }

    /** Keeps the text of what has the focus at the moment when a dialog is there, before anything else is handled. */
    private static final String FOCUS_OF_NEXT_DIALOG = """
            () => {
              const seen = new MutationObserver(() => {
                if (!document.querySelector('[role=dialog]')) return;
                seen.disconnect();
                window.focusOfDialog = document.activeElement.textContent;
              });
              seen.observe(document.body, { childList: true, subtree: true });
            }""";

    /** A note goes to nobody else's order, and one part that is saved leaves what is typed in another. */
    @Test
    void whatIsTypedStaysWithWhatItIsAbout() {
        var orders = inReview();
        page.getByLabel("Note").fill("half of it can wait");
        page.evaluate(FOCUS_OF_NEXT_DIALOG);
        page.locator("a.list-item").nth(1).click();
        assertThat(page.getByText("Not saved yet")).isVisible();
        assertThat(page.evaluate("() => window.focusOfDialog")).isEqualTo("Stay");
        page.keyboard().press("Enter");
        assertThat(page.getByText("Not saved yet")).isHidden();
        assertThat(page.getByLabel("Note")).hasValue("half of it can wait");
        page.getByLabel("Note").press("Enter");
        assertThat(page.getByLabel("Note")).hasValue("");
        page.locator("a.list-item").nth(1).click();
        page.waitForURL("**/review/" + orders.get(1));
        as("lead");
        page.navigate(application.url() + "/customers/C137/terms");
        page.getByLabel("Credit limit").fill("12,345.00");
        page.getByText("+ licence").click();
        page.getByLabel("Licence class").last().fill("solvent");
        page.getByLabel("Licence number").last().fill("SO-77");
        button("Save terms").first().click();
        assertThat(page.getByText("Saved. Open orders were checked again.").first())
                .isVisible();
        assertThat(page.getByLabel("Licence number").last()).hasValue("SO-77");
        button("Save terms").last().click();
        page.waitForFunction("() => !document.querySelector('[aria-busy=true]')");
        page.reload();
        assertThat(page.getByLabel("Licence number").last()).hasValue("SO-77");
        assertThat(page.getByLabel("Credit limit")).hasValue("12345.00");
    }

    /** Orders not cancelled, of one customer, with the store instead of the PO; the file has the same. */
    @Test
    void aListIsAskedForWithTheKeysAndTakenAlongAsAFile() throws IOException {
        page.navigate(application.url() + "/orders");
        page.locator("tr.at").waitFor();
        withoutCancelled();
        page.keyboard().press("f");
        page.getByLabel("the field").selectOption("Customer");
        choose("find by name or code", "C126");
        page.keyboard().press("Enter");
        button("Columns").click();
        // beside the boxes there are buttons that move them
        page.getByLabel("Customer PO", new Page.GetByLabelOptions().setExact(true))
                .uncheck();
        page.getByLabel("Store", new Page.GetByLabelOptions().setExact(true)).check();
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("Store")))
                .isVisible();
        button("Requested").click();
        assertThat(page.locator("th[aria-sort=ascending]")).hasText("Requested ↑");
        // until the rows of this sequence are there, those of the one before stand greyed
        page.locator("table.data[aria-busy=false]").waitFor();
        page.locator("tfoot").getByText("order").waitFor();
        var shown = page.locator("tbody a.mono").allTextContents();
        assertThat(shown).isNotEmpty();
        page.keyboard().press("e");
        var file = page.waitForDownload(() -> page.getByText("CSV", new Page.GetByTextOptions().setExact(true))
                .click());
        var lines = Files.readAllLines(file.path());
        assertThat(lines.get(0))
                .isEqualTo("Order,Customer,Customer name,State,Ordered,Requested,Gross,Store,Store name");
        assertThat(lines.stream().skip(1).map(line -> line.substring(0, line.indexOf(','))))
                .containsExactlyElementsOf(shown);
        // the address is all of it, in another tab too, and after one comes back
        var address = page.url();
        page.locator("tbody a.mono").last().click();
        page.waitForURL("**/orders/SO-*");
        page.goBack();
        assertThat(page).hasURL(address);
        assertThat(page.locator("tbody a.mono").last()).hasText(shown.get(shown.size() - 1));
        var tab = page.context().newPage();
        tab.navigate(address);
        assertThat(tab.locator("tbody a.mono").first()).hasText(shown.get(0));
    }

    /** Filters the list of orders by its keys. */
    private void withoutCancelled() {
        page.keyboard().press("f");
        page.getByLabel("the field").selectOption("State");
        page.getByLabel("How").selectOption("is none of these");
        page.getByLabel("Cancelled").check();
        page.keyboard().press("Enter");
        page.getByText("not cancelled").waitFor();
    }

    /** Orders of the last days by customer, drawn, kept for colleagues, and three of them printed. */
    @Test
    void aViewIsKeptForColleaguesWhoDrawAndPrintIt() {
        page.navigate(application.url() + "/orders?view=&sort=customer");
        page.locator("tr.at").waitFor();
        withoutCancelled();
        page.keyboard().press("f");
        page.getByLabel("the field").selectOption("Requested");
        page.getByLabel("is", new Page.GetByLabelOptions().setExact(true)).selectOption("in the last days");
        page.getByLabel("how many days").fill("60");
        page.keyboard().press("Enter");
        page.getByText("in the last 60 days").waitFor();
        button("Chart").click();
        page.getByLabel("what").selectOption("gross");
        page.locator(".recharts-bar-rectangle").first().waitFor();
        button("Keep view").click();
        var name = "Wanted lately " + System.nanoTime();
        page.getByLabel("name", new Page.GetByLabelOptions().setExact(true)).fill(name);
        page.getByLabel("for everybody").check();
        page.keyboard().press("Enter");
        assertThat(page.locator("h1")).hasText(name);
        var drawn = page.locator("tfoot .num").last().textContent();

        as("clerk");
        page.navigate(application.url() + "/orders");
        page.locator("tr.at").waitFor();
        page.keyboard().press("v");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name)).click();
        assertThat(page.locator("h1")).hasText(name);
        page.getByText("not cancelled").waitFor();
        assertThat(page.locator("tfoot .num").last()).hasText(drawn);
        // a bar opens the rows behind it; Back comes back to all of them
        page.locator(".recharts-bar-rectangle").first().click();
        assertThat(page.locator(".condition")).hasCount(3);
        page.goBack();
        assertThat(page.locator(".condition")).hasCount(2);
        page.locator("tr.at").waitFor();
        page.keyboard().press("x");
        page.keyboard().press("j");
        page.keyboard().press("x");
        page.keyboard().press("j");
        page.keyboard().press("x");
        var print = button("Print 3 selected");
        var printed = page.waitForResponse(answer -> answer.url().contains("/api/print"), print::click);
        assertThat(printed.status()).isEqualTo(200);
    }

    /** What was billed in a month, and whether the ledger says the same. */
    @Test
    void aRegisterTiesToTheLedgerAndLeadsThere() {
        page.navigate(application.url() + "/billing");
        page.getByText("Registers", new Page.GetByTextOptions().setExact(true)).click();
        page.getByLabel("Month", new Page.GetByLabelOptions().setExact(true)).selectOption("last month");
        assertThat(page.locator(".ties strong")).hasText("Ties to the ledger");
        assertThat(page.locator(".ties .error")).hasCount(0);
        page.locator(".ties a").first().click();
        page.waitForURL("**/ledger/account?account=*&from=*&to=*");
        page.goBack();
        page.getByText("Receipts", new Page.GetByTextOptions().setExact(true)).click();
        assertThat(page.getByLabel("Month", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("last-month");
        assertThat(page.locator(".ties strong")).hasText("Ties to the ledger");
        // keys are the tab's as long as it has the focus
        page.keyboard().press("Escape");
        page.keyboard().press("Enter");
        page.waitForURL(url -> url.matches(".*/(PAYMENT|REFUND|payment|deposit)/[A-Z]+-[0-9]+"));
    }
}
