package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Route;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** A list of ten thousand rows in a real browser: what is out of sight is not drawn, and no key has to wait. */
class LongListTests extends Journey {

    private static final JsonMapper JSON = new JsonMapper();
    private static final int ROWS = 10_000;

    private static final int KEYS = 60;

    /** The rows of the first page, again and again, each with a key and a number of its own. */
    private static void again(Route route) {
        var answer = (ObjectNode) JSON.readTree(route.fetch().text());
        var some = (ArrayNode) answer.get("rows");
        var many = answer.putArray("rows");
        for (int at = 0; at < ROWS; at++) {
            var row = (ObjectNode) some.get(at % some.size()).deepCopy();
            row.put("key", String.valueOf(at));
            ((ObjectNode) row.get("cells")).put("number", "SO-" + at);
            many.add(row.put("opens", "SO-" + at));
        }
        route.fulfill(new Route.FulfillOptions()
                .setBody(answer.putNull("next").toString())
                .setContentType("application/json"));
    }

    @Test
    void isScrolledAndGoneThroughWithoutWaiting() {
        page.navigate(application.url() + "/orders?view=");
        page.locator("tr[data-index='0']").waitFor();
        var ofFew = keyTakes();
        page.route(url -> url.contains("/api/lists/orders/rows"), LongListTests::again);
        page.navigate(application.url() + "/orders?view=");
        page.locator("tr[data-index='0']").waitFor();
        page.evaluate("""
                () => {
                    window.tasks = [];
                    new PerformanceObserver((list) => list.getEntries().forEach((task) => window.tasks.push(task.duration)))
                        .observe({ type: 'longtask' });
                }""");
        var aKey = keyTakes();
        assertThat(page.locator("tr.at").getAttribute("data-index")).isEqualTo(String.valueOf(KEYS));
        for (int turn = 0; turn < 60; turn++) {
            page.mouse().move(600, 400);
            page.mouse().wheel(0, 5_000);
            page.evaluate("() => new Promise((done) => requestAnimationFrame(() => done(true)))");
        }
        var drawn = page.locator("tr[data-index]").count();
        var last = Integer.parseInt(page.locator("tr[data-index]").last().getAttribute("data-index"));
        @SuppressWarnings("unchecked")
        var tasks = (List<Number>) page.evaluate("window.tasks");
        System.out.printf(
                "10,000 rows: %d drawn, scrolled to %d; half of the keys take up to %.0f ms, of a hundred rows %.0f ms; tasks"
                        + " above 50 ms: %s%n",
                drawn, last, aKey, ofFew, tasks);
        assertThat(drawn).isBetween(20, 60);
        assertThat(last).isGreaterThan(5_000);
        // beside a short list on the same machine in the same minute: how fast either is depends on the machine
        assertThat(aKey).isLessThan(3 * ofFew + 20);
    }

    /** How many milliseconds half of some keys take at most until the next frame. */
    private double keyTakes() {
        var times = new ArrayList<Double>();
        for (int key = 0; key < KEYS; key++) {
            var before = System.nanoTime();
            page.keyboard().press("j");
            page.evaluate("() => new Promise((done) => requestAnimationFrame(() => done(true)))");
            times.add((System.nanoTime() - before) / 1e6);
        }
        times.sort(Double::compare);
        return times.get(KEYS / 2);
    }
}
