package app.euthyna.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.LoadState;
import com.microsoft.playwright.options.WaitForSelectorState;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Every place with what it holds, as somebody meets it who sees little, uses no mouse, or has a narrow window. What can
 * be judged by rule is: axe-core on the criteria of WCAG 2.1, levels A and AA, in both colour schemes.
 */
class EveryPlaceTests extends Journey {

    /** Run by the browser itself: what a page brings along is bound by the policy of its contents. */
    private static String axe;

    @BeforeAll
    static void reads() throws IOException {
        axe = Files.readString(Path.of("../web/node_modules/axe-core/axe.min.js"));
    }

    /** By the rules of those criteria, or by one of them alone. */
    private static final String FAULTS = """
            async (rule) => {
              const all = { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] };
              const found = await axe.run(document, {
                runOnly: rule ? { type: 'rule', values: [rule] } : all,
                rules: rule ? {} : { 'empty-table-header': { enabled: true } },
                resultTypes: ['violations'],
              });
              return found.violations.flatMap((fault) =>
                fault.nodes.map((node) => `${fault.id}: ${node.target.join(' ')} ${node.html.slice(0, 120)}`));
            }
            """;

    /** The places that are there whatever the company has. */
    private static final List<String> ALWAYS_THERE = List.of(
            "/today",
            "/review",
            "/orders",
            "/orders?view=late&chart=customer:openGross",
            "/orders/new",
            "/orders/quotes",
            "/orders/blanket",
            "/orders/recurring",
            "/orders/due",
            "/orders/import",
            "/orders/imports",
            "/orders/agreements/new",
            "/goods",
            "/goods/staged",
            "/goods/departed",
            "/goods/stock",
            "/goods/stock?item=RP-112",
            "/billing",
            "/billing/invoices",
            "/billing/credit-notes",
            "/billing/overdue",
            "/billing/receive",
            "/billing/receive?customer=C126",
            "/billing/bank",
            "/billing/payments",
            "/billing/deposits",
            "/billing/refunds",
            "/billing/write-offs",
            "/billing/disputes",
            "/billing/ageing",
            "/billing/registers/sales-register?filter=enteredOn:in:last-30-days&chart=enteredOn.week:net",
            "/billing/registers/receipts-register?filter=enteredOn:in:this-month",
            "/billing/balances/shipped-not-billed?filter=asOf:at:last-month",
            "/lists",
            "/lists/in-inspection?view=",
            "/billing/direct",
            "/returns",
            "/returns/new",
            "/returns/unexpected",
            "/returns/all",
            "/returns/rates",
            "/undone",
            "/undone/done",
            "/undone/report",
            "/undone/leftovers",
            "/ledger",
            "/ledger/journal",
            "/ledger/account",
            "/ledger/manual-entry",
            "/ledger/posting-map",
            "/ledger/periods",
            "/proof",
            "/customers",
            "/customers/C126",
            "/customers/C126/statement",
            "/customers/C126/terms",
            "/items",
            "/items/RP-112",
            "/rules",
            "/rules/po",
            "/rules/approval",
            "/rules/entry",
            "/rules/unwinding",
            "/rules/returns",
            "/rules/receivables",
            "/rules/changes",
            "/access",
            "/access/changes",
            "/access/sign-ins",
            "/outbox",
            "/batches");

    private final List<String> places = new ArrayList<>();

    @BeforeEach
    void namesThePlaces() {
        var api = Api.signIn(application.url(), "auditor", "auditor");
        places.addAll(ALWAYS_THERE);
        var held = first(api, "/api/review?sort=PRIORITY");
        var invoice = first(api, "/api/invoices");
        places.addAll(List.of(
                "/orders/" + held,
                "/orders/" + held + "/change",
                "/review/" + held,
                "/review/together?orders=" + held,
                "/unwind/ORDER/" + held,
                "/billing/invoice/" + invoice,
                "/billing/correct/" + invoice,
                "/billing/payment/" + first(api, "/api/payments"),
                "/billing/write-off/" + first(api, "/api/write-offs"),
                "/trail/INVOICE/" + invoice,
                "/unwind/INVOICE/" + invoice));
    }

    private static String first(Api api, String list) {
        return api.get(list).get("rows").get(0).get("number").asString();
    }

    private void open(String place) {
        page.navigate(application.url() + place);
        page.locator("h1, table.rows, .empty:not([role=status]), .situation")
                .first()
                .waitFor();
        page.getByText("Loading…")
                .first()
                .waitFor(new Locator.WaitForOptions().setState(WaitForSelectorState.DETACHED));
    }

    private List<String> faults(String where) {
        page.evaluate(axe);
        return faults(where, "");
    }

    /** Axe is on the page already. */
    private List<String> faults(String where, String rule) {
        @SuppressWarnings("unchecked")
        var faults = (List<String>) page.evaluate(FAULTS, rule);
        return faults.stream().map(fault -> where + " " + fault).toList();
    }

    /** Each place is opened once, and looked at in the light, in the dark and in half the width. */
    @Test
    void opensAndCanBeReadByEverybody() {
        as("lead");
        var faults = new ArrayList<String>();
        for (var place : places) {
            in(ColorScheme.LIGHT);
            open(place);
            assertThat(page.locator("body")).not().containsText("This page failed");
            faults.addAll(faults(place));
            faults.addAll(titles(place));
            in(ColorScheme.DARK);
            // of all that the rules look at, the colours alone are others
            faults.addAll(faults(place + " in the dark", "color-contrast"));
            faults.addAll(tooWide(place));
        }
        assertThat(faults).isEmpty();
    }

    private void in(ColorScheme scheme) {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
    }

    /** A place has one title: what it is about. Its parts have headings below that. */
    private List<String> titles(String place) {
        var titles = page.locator("h1").allTextContents();
        return titles.size() > 1 ? List.of(place + " has the titles " + titles) : List.of();
    }

    /** WCAG 2.1, 1.4.10: at twice the size, which is half the width, the page itself does not scroll sideways. */
    private List<String> tooWide(String place) {
        page.setViewportSize(640, 800);
        var over = ((Number) page.evaluate("""
                        () => [document.scrollingElement, ...document.querySelectorAll('.page-scroll, .frame-body')]
                          .map((part) => part.scrollWidth - part.clientWidth)
                          .reduce((most, one) => Math.max(most, one), 0)
                        """)).intValue();
        page.setViewportSize(1280, 800);
        return over > 0 ? List.of(place + " is too wide by " + over) : List.of();
    }

    /** What is wrong with a dialog, which is left again. */
    private List<String> dialog(String name, Runnable opens) {
        opens.run();
        page.getByRole(AriaRole.DIALOG).waitFor();
        page.waitForLoadState(LoadState.NETWORKIDLE);
        // what fades in is paler than it will be
        page.waitForTimeout(400);
        var faults = faults(name);
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.DIALOG).waitFor(new Locator.WaitForOptions().setState(WaitForSelectorState.DETACHED));
        return faults;
    }

    @Test
    void dialogsCanBeReadByEverybody() {
        var faults = new ArrayList<String>();
        open(places.stream()
                .filter(place -> place.startsWith("/review/SO"))
                .findFirst()
                .orElseThrow());
        for (var key : List.of("w", "s", "d", "?")) {
            faults.addAll(dialog("dialog of " + key, () -> page.keyboard().press(key)));
        }
        open("/orders");
        page.locator("tr.at").waitFor();
        faults.addAll(dialog("a condition of a list", () -> page.keyboard().press("f")));
        faults.addAll(dialog("columns of a list", () -> button("Columns").click()));
        faults.addAll(dialog("views of a list", () -> page.keyboard().press("v")));
        faults.addAll(dialog("keeping a view", () -> button("Keep view").click()));
        open("/billing/invoices");
        page.locator("tr.at").waitFor();
        page.keyboard().press("x");
        faults.addAll(dialog("taking invoices back", () -> page.keyboard().press("u")));
        faults.addAll(dialog(
                "writing invoices off", () -> button("Write off 1 selected").click()));
        page.keyboard().press("Enter");
        for (var action : List.of("Write off", "Dispute")) {
            faults.addAll(dialog(action + " of an invoice", () -> button(action).click()));
        }
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("controller").setExact(true))
                .click();
        page.getByRole(AriaRole.MENU).waitFor();
        page.waitForTimeout(400);
        // Mantine puts an empty element into its menus that takes the focus first
        faults.addAll(faults("menu of the user").stream()
                .filter(fault -> !fault.startsWith("menu of the user aria-required-children"))
                .toList());
        page.keyboard().press("Escape");
        page.getByLabel("Find").fill("RP");
        page.locator("[role=option]").first().waitFor();
        page.waitForTimeout(400);
        faults.addAll(faults("what Find finds"));
        assertThat(faults).isEmpty();
    }

    /** What is fetched before somebody can begin to work: the page, its scripts and its styles, as they are sent. */
    @Test
    void theFirstScreenIsLight() {
        var sent = new ConcurrentHashMap<String, Integer>();
        as("controller");
        page.context().clearCookies();
        page.onRequestFinished(request -> {
            if (Set.of("document", "script", "stylesheet").contains(request.resourceType())) {
                sent.merge(request.url(), request.sizes().responseBodySize, Integer::sum);
            }
        });
        page.navigate(application.url() + "/today");
        page.getByLabel("Password").waitFor();
        assertThat(sent).hasSizeGreaterThan(3);
        assertThat(sent.values().stream().mapToInt(Integer::intValue).sum())
                .as("%s", sent)
                .isLessThanOrEqualTo(200_000);
    }

    @Test
    void isReachedPastTheFrameWithOneKey() {
        open("/orders");
        page.keyboard().press("Tab");
        page.evaluate("document.activeElement.blur()");
        page.locator(".skip").focus();
        assertThat(page.locator(".skip")).isInViewport();
        page.keyboard().press("Enter");
        assertThat(page.locator("main")).isFocused();
    }
}
