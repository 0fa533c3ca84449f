package app.euthyna.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What a controller does, in a real browser on the packaged application. */
class JourneyTests {

    private static Application application;
    private static Playwright playwright;
    private static Browser browser;
    private Page page;
    private final List<String> complaints = new ArrayList<>();

    @BeforeAll
    static void open() throws Exception {
        application = Application.start("jdbc:h2:mem:journeys;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024", 60);
        playwright = Playwright.create();
        browser = playwright.chromium().launch(new BrowserType.LaunchOptions().setExecutablePath(Path.of("/usr/bin/chromium"))
                .setArgs(List.of("--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
                        "--disable-background-networking", "--disable-component-update", "--disable-sync")));
    }

    @AfterAll
    static void close() throws Exception {
        playwright.close();
        application.close();
    }

    @BeforeEach
    void signIn() {
        page = browser.newContext(new Browser.NewContextOptions().setViewportSize(1280, 800)).newPage();
        page.onPageError(complaints::add);
        page.navigate(application.url());
        page.getByLabel("Name").fill("controller");
        page.getByLabel("Password").fill("controller");
        page.keyboard().press("Enter");
        page.waitForURL("**/today");
    }

    @AfterEach
    void pageBrokeNowhere() {
        assertThat(complaints).isEmpty();
        page.context().close();
    }

    private Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    @Test
    void mostUrgentHeldOrderIsLetPassShippedBilledPaidAndFoundAgainByItsPo() {
        page.navigate(application.url() + "/review?reason=duplicate-po");
        page.locator("a.list-item").first().click();
        assertThat(page.locator(".situation")).containsText("Held since");
        assertThat(page.locator(".situation")).containsText("the PO number");
        var number = page.locator("h1 a.mono").textContent();
        var po = page.locator(".page-head .mono").nth(1).textContent();

        page.keyboard().press("w");
        page.locator("#reason").fill("second call-off on the same PO, confirmed by telephone");
        page.keyboard().press("Enter");
        assertThat(page.locator(".situation")).containsText("Cleared");

        button("Stage what is reserved").click();
        button("Send off").click();
        button("Bill what can be billed").click();
        assertThat(page.getByText("Billed as invoice")).isVisible();

        page.keyboard().press("/");
        page.keyboard().type(po);
        page.getByRole(AriaRole.OPTION).filter(new Locator.FilterOptions().setHasText(number)).click();
        page.waitForURL("**/trail/ORDER/" + number);
        assertThat(page.locator("table.rows").first()).containsText("Invoice");
        assertThat(page.getByText("All 9 statements hold for this trail")).isVisible();

        var invoice = page.locator("table.rows").first().getByRole(AriaRole.LINK).filter(new Locator.FilterOptions().setHasText("Invoice"))
                .first().textContent().replace("Invoice ", "");
        page.navigate(application.url() + "/billing/invoices");
        page.locator("tr").filter(new Locator.FilterOptions().setHasText(invoice)).getByText("Money in").click();
        var row = page.locator("tr").filter(new Locator.FilterOptions().setHasText(invoice));
        row.getByText("all of it").click();
        page.getByLabel("Amount received").fill(page.getByLabel("Against " + invoice).inputValue());
        button("Book the payment").click();
        assertThat(page.getByText("all allocated")).isVisible();
        page.navigate(application.url() + "/trail/INVOICE/" + invoice);
        assertThat(page.locator(".facts")).containsText("0.00 open");
    }

    @Test
    void orderIsTypedWithTheKeyboardAndTheDryRunSaysWhatWouldHoldIt() {
        page.keyboard().press("n");
        page.getByLabel("Customer", new Page.GetByLabelOptions().setExact(true)).fill("sandeel");
        page.locator(".look-hits [role=option]").first().waitFor();
        page.keyboard().press("Enter");
        page.getByLabel("Their PO").fill("po 4417-B");
        page.getByLabel("Item of line 1").fill("braid 12");
        page.locator(".look-hits [role=option]").first().waitFor();
        page.keyboard().press("Enter");
        page.getByLabel("Quantity of line 1").fill("20");
        assertThat(page.getByText("It would be held")).isVisible();
        assertThat(page.locator("aside")).containsText("PO used before");
        page.getByLabel("Their PO").fill("brand new " + System.nanoTime());
        assertThat(page.getByText("It would pass")).isVisible();
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/SO-*");
        assertThat(page.locator(".situation")).containsText("Cleared: nothing holds it.");
    }

    @Test
    void cancellingAnOrderThatHasLeftIsRefusedInWordsAndTheRestCanGo() {
        var api = Api.signIn(application.url(), "controller", "controller");
        var order = api.post("/api/orders", Map.of("customer", "C126", "lines", List.of(Map.of("item", "RP-112", "quantity", 10)))).get("number").asString();
        var dispatch = api.post("/api/dispatches", Map.of("order", order, "version", api.get("/api/orders/" + order).get("version").asLong(), "lines",
                List.of(Map.of("line", 1, "quantity", 4))));
        api.post("/api/dispatches/" + dispatch.get("number").asString() + "/departure", Map.of("version", dispatch.get("version").asLong()));

        page.navigate(application.url() + "/unwind/" + order);
        page.getByLabel("Cancel the order").check();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("have left the building");
        page.getByLabel("Cancel the rest").check();
        assertThat(page.getByText("2 steps, all possible now")).isVisible();
        page.locator("#reason").fill("the yard has closed");
        page.keyboard().press("Control+Enter");
        page.waitForURL("**/orders/" + order);
        assertThat(page.locator("table.rows").first()).containsText("4");
    }

    @Test
    void fileIsTakenInAndSaysWhatBecameOfEveryOrder() {
        page.navigate(application.url() + "/orders/intake");
        page.getByLabel("File").setInputFiles(new FilePayload("orders.csv", "text/csv",
                "reference,customer,po,item,quantity\nE-1,C126,E-1,RP-112,4\nE-2,nobody,E-2,RP-112,4\n".getBytes(StandardCharsets.UTF_8)));
        button("Take in").click();
        assertThat(page.locator(".situation")).containsText("No order was taken in");
        assertThat(page.locator("table.rows").first()).containsText("the code of a customer of ours");
        page.getByLabel("If something is wrong").selectOption("false");
        button("Take in").click();
        assertThat(page.locator(".situation")).containsText("One order was taken in");
    }

    @Test
    void whatWasAnsweredIsThereAfterTheProcessWasKilled() throws Exception {
        var file = Files.createTempDirectory("euthyna").resolve("books");
        var database = "jdbc:h2:file:" + file + ";WRITE_DELAY=0;QUERY_CACHE_SIZE=1024";
        var answered = new ArrayList<String>();
        var running = Application.start(database, 0);
        var admin = Api.signIn(running.url(), "admin", "admin");
        for (int at = 0; at < 20; at++) {
            answered.add(admin.post("/api/customers", Map.of("code", "K" + at, "name", "Kept " + at)).get("code").asString());
        }
        running.kill();
        try (var again = Application.start(database, 0)) {
            var reader = Api.signIn(again.url(), "auditor", "auditor");
            assertThat(answered).hasSize(20).allSatisfy(code -> assertThat(reader.get("/api/customers/" + code).get("code").asString()).isEqualTo(code));
        }
    }
}
