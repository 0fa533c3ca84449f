package app.euthyna.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.ConsoleMessage;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;

/** Somebody at a real browser on the packaged application; one application serves all of them. */
abstract class Journey {

    /** Milliseconds a journey waits for what it expects: a busy machine is slow, not wrong. */
    private static final int PATIENCE = 60_000;

    static Application application;
    private static Playwright playwright;
    private static Browser browser;
    Page page;
    private final List<String> complaints = new ArrayList<>();

    @BeforeAll
    static void open() throws Exception {
        if (application != null) {
            return;
        }
        application = Application.start("jdbc:h2:mem:journeys;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024", 60);
        Runtime.getRuntime().addShutdownHook(new Thread(application::close));
        playwright = Playwright.create();
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE);
        browser = playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of(
                                "--headless",
                                "--no-sandbox",
                                "--disable-gpu",
                                "--disable-quic",
                                "--no-first-run",
                                "--disable-background-networking",
                                "--disable-component-update",
                                "--disable-sync")));
    }

    @BeforeEach
    void signIn() {
        signIn("controller");
    }

    void signIn(String user) {
        page = browser.newContext(new Browser.NewContextOptions().setViewportSize(1280, 800))
                .newPage();
        page.setDefaultTimeout(PATIENCE);
        page.onPageError(complaints::add);
        page.onConsoleMessage(this::listen);
        page.navigate(application.url());
        page.getByLabel("Name").fill(user);
        page.getByLabel("Password").fill(user);
        page.keyboard().press("Enter");
        page.waitForURL("**/today");
    }

    /** What the browser complains of; that an answer was a refusal, or did not come, is no fault of the page. */
    private void listen(ConsoleMessage said) {
        if (said.type().equals("error") && !said.text().startsWith("Failed to load resource")) {
            complaints.add(said.text());
        }
    }

    /** Somebody else at a browser of their own. */
    void as(String user) {
        page.context().close();
        signIn(user);
    }

    @AfterEach
    void pageBrokeNowhere() {
        assertThat(complaints).isEmpty();
        page.context().close();
    }

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    /** Types what is looked for, waits for what is found, and takes the first. */
    void choose(String label, String typed) {
        page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).fill(typed);
        page.locator(".look-hits [role=option]").first().waitFor();
        page.keyboard().press("Enter");
    }

    /** The days of a customer's payments of an amount. */
    static List<String> payments(Api api, String customer, String amount) {
        return api.get("/api/payments")
                .get("rows")
                .valueStream()
                .filter(row -> row.get("customer").asString().equals(customer)
                        && row.get("amount").asString().equals(amount))
                .map(row -> row.get("on").asString())
                .toList();
    }

    void recordsAPayment(String customer, String amount) {
        page.navigate(application.url() + "/billing/receive?customer=" + customer);
        page.getByLabel("Amount received").fill(amount);
    }

    /** An order of one line, under a PO of its own. */
    static String ordered(Api api, String po, String item, int quantity) {
        return ordered(api, "C126", po + " " + System.nanoTime(), Map.of("item", item, "quantity", quantity));
    }

    static String ordered(Api api, String customer, String po, Map<String, ?> line) {
        return api.post("/api/orders", Map.of("customer", customer, "po", po, "lines", List.of(line)))
                .get("number")
                .asString();
    }

    /** All that has left of an order is billed, and paid by its customer; the invoice. */
    static String billedAndPaid(Api api, Api recorder, String customer, String order) {
        var invoice = api.post("/api/invoices", Map.of("orders", List.of(order)));
        var number = invoice.get("number").asString();
        paid(recorder, customer, number, invoice.get("gross").asString());
        return number;
    }

    /** An amount is received and allocated to an invoice, whole. */
    static void paid(Api recorder, String customer, String invoice, String amount) {
        recorder.post(
                "/api/payments",
                Map.of(
                        "customer",
                        customer,
                        "amount",
                        amount,
                        "allocate",
                        List.of(Map.of("invoice", invoice, "amount", amount))));
    }

    /** An order of one line that has left whole. */
    static String gone(Api api, String po, int quantity) {
        var order = ordered(api, po, "RP-112", quantity);
        leaves(api, order);
        return order;
    }

    /** All that is reserved for an order is staged and departs. */
    static void leaves(Api api, String order) {
        var dispatch = api.post(
                "/api/dispatches",
                Map.of(
                        "order",
                        order,
                        "version",
                        api.get("/api/orders/" + order).get("version").asLong()));
        api.post(
                "/api/dispatches/" + dispatch.get("number").asString() + "/departure",
                Map.of("version", dispatch.get("version").asLong()));
    }
}
