package app.euthyna.e2e.bench;

import app.euthyna.e2e.client.Api;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import tools.jackson.databind.JsonNode;

/**
 * Times what can be asked of lists: each view that ships, each column as the only filter with each sequence, totals and
 * charts; the first page of rows. Tells of each list the slowest of each kind, and whatever took longer than it may.
 */
final class ListTimes {

    private static final int WARM_UP = 2;
    private static final int TIMES = 5;
    /** Beyond so many milliseconds it is asked twice. */
    private static final double SLOW = 100;
    /** What a first page may take, and totals or a chart; milliseconds. */
    private static final Map<String, Double> MOST =
            Map.of("view", 20.0, "filter", 20.0, "sequence", 20.0, "totals", 100.0, "chart", 100.0);

    /** What is as quick as this is quick enough in any company. */
    private static final double QUICK = 3;

    /** A first page may last so many times as long where there are a hundred times as many orders. */
    private static final double LONGER = 1.5;

    /** @param shape the same in every company, whatever values it has */
    record Asked(String list, String kind, String shape, String path) {}

    /**
     * What was asked, and how long it took.
     *
     * @param rows how many it told; none of totals and charts
     * @param isWhole whether it looked at no more rows than it told, or found them all
     */
    record Timed(Asked asked, double millis, int rows, boolean isWhole) {}

    private final Api lead;
    private final int warmUp;
    private final int rounds;
    private final int every;

    ListTimes(Api lead) {
        this(lead, WARM_UP, TIMES, 1);
    }

    /** @param every of so many questions one is asked */
    ListTimes(Api lead, int warmUp, int rounds, int every) {
        this.lead = lead;
        this.warmUp = warmUp;
        this.rounds = rounds;
        this.every = every;
    }

    /** Prints the table; what was asked, by what it is in any company. */
    Map<String, Timed> measure() {
        var all = new ArrayList<Asked>();
        lead.get("/api/lists").forEach(list -> all.addAll(of(list)));
        var asked = IntStream.range(0, all.size())
                .filter(at -> at % every == 0)
                .mapToObj(all::get)
                .toList();
        System.err.printf("%d questions about lists%n", asked.size());
        for (int round = 0; round < warmUp; round++) {
            // what is asked first would be slow for that alone
            asked.stream().filter(ListTimes::isPage).forEach(one -> lead.get(one.path()));
        }
        System.out.println("the slowest of each, milliseconds");
        var timed = asked.stream()
                .collect(Collectors.groupingBy(Asked::list, LinkedHashMap::new, Collectors.toList()))
                .entrySet()
                .stream()
                .flatMap(list -> timed(list.getKey(), list.getValue()).stream())
                .toList();
        var slow = timed.stream()
                .filter(one -> one.millis() > MOST.get(one.asked().kind()))
                .sorted(Comparator.comparingDouble(Timed::millis).reversed())
                .toList();
        System.out.printf("%d of %d took longer than they may%n", slow.size(), timed.size());
        slow.forEach(one -> System.out.printf(
                "%8.1f  %-8s %s%n",
                one.millis(), one.asked().kind(), one.asked().path()));
        var byShape = new LinkedHashMap<String, Timed>();
        timed.forEach(one -> byShape.put(one.asked().shape(), one));
        return byShape;
    }

    /**
     * Prints the first pages that take longer in the larger of two companies than they may. Those alone are held
     * against each other that tell as many rows and were found, not looked for: of a list with few rows any page is
     * quick.
     */
    static void compare(Map<String, Timed> larger, Map<String, Timed> smaller) {
        var alike = larger.values().stream()
                .filter(one ->
                        isPage(one.asked()) && smaller.containsKey(one.asked().shape()))
                .filter(one -> {
                    var other = smaller.get(one.asked().shape());
                    return one.rows() == other.rows() && one.isWhole() && other.isWhole();
                })
                .toList();
        var longer = alike.stream()
                .filter(one -> one.millis() > QUICK
                        && one.millis()
                                > LONGER * smaller.get(one.asked().shape()).millis())
                .sorted(Comparator.comparingDouble(Timed::millis).reversed())
                .toList();
        System.out.printf(
                "%d of %d first pages of as many rows took more than %.1f times as long as in the smaller company%n",
                longer.size(), alike.size(), LONGER);
        longer.forEach(one -> System.out.printf(
                "%8.1f %8.1f  %s%n",
                one.millis(),
                smaller.get(one.asked().shape()).millis(),
                one.asked().shape()));
    }

    /** Times what is asked of one list, and prints the slowest of each kind. */
    private List<Timed> timed(String list, List<Asked> asked) {
        var timed = asked.stream().map(this::timed).toList();
        var slowest = timed.stream()
                .collect(Collectors.toMap(one -> one.asked().kind(), Timed::millis, Math::max, TreeMap::new));
        System.out.printf(
                "%-22s %s%n",
                list,
                slowest.entrySet().stream()
                        .map(kind -> "%s %.1f".formatted(kind.getKey(), kind.getValue()))
                        .collect(Collectors.joining("  ")));
        return timed;
    }

    private static boolean isPage(Asked one) {
        return one.path().contains("/rows?");
    }

    private Timed timed(Asked asked) {
        var times = new ArrayList<Double>();
        var answer = lead.get(asked.path());
        for (int round = 1; round < warmUp + rounds; round++) {
            var began = System.nanoTime();
            answer = lead.get(asked.path());
            var millis = (System.nanoTime() - began) / 1e6;
            if (round >= warmUp || millis > SLOW) {
                times.add(millis);
            }
            if (times.size() > 1 && millis > SLOW) {
                // it is not made out more exactly
                break;
            }
        }
        return new Timed(
                asked,
                new Times(times).median(),
                isPage(asked) ? answer.get("rows").size() : 0,
                !isPage(asked) || answer.get("looked").isNull());
    }

    private static List<String> texts(JsonNode array) {
        return array.valueStream().map(JsonNode::asString).toList();
    }

    private List<Asked> of(JsonNode list) {
        var name = list.get("name").asString();
        var base = "/api/lists/" + name;
        var asked = new ArrayList<Asked>();
        var sorts = new ArrayList<>(List.of(""));
        for (var column : list.get("columns")) {
            if (column.get("isSorted").asBoolean()) {
                sorts.add("&sort=" + column.get("name").asString());
                sorts.add("&sort=-" + column.get("name").asString());
            }
        }
        for (var view : list.get("views")) {
            var filters = texts(view.get("filter")).stream()
                    .map(filter -> "&filter=" + filter)
                    .collect(Collectors.joining());
            asked.add(same(name, "view", base + "/rows?sort=" + view.get("sort").asString() + filters));
            asked.add(same(name, "totals", base + "/totals?" + filters));
            if (!view.get("chart").asString().isEmpty()) {
                asked.add(same(
                        name,
                        "chart",
                        base + "/groups?chart=" + view.get("chart").asString() + filters));
            }
        }
        sorts.forEach(sort -> asked.add(same(name, "sequence", base + "/rows?" + sort)));
        for (var filter : filters(list, base)) {
            // a field, an operator, and a value that the other company does not have
            var shape = filter.contains(":in:")
                    ? filter
                    : filter.substring(0, filter.indexOf(':', filter.indexOf(':') + 1));
            sorts.forEach(sort -> asked.add(new Asked(
                    name, "filter", base + "/rows?filter=" + shape + sort, base + "/rows?filter=" + filter + sort)));
        }
        return asked;
    }

    private static Asked same(String list, String kind, String path) {
        return new Asked(list, kind, path, path);
    }

    /** One for each column, with what a row in the middle of the first page has. */
    private List<String> filters(JsonNode list, String base) {
        var columns = list.get("columns")
                .valueStream()
                .map(one -> one.get("name").asString())
                .toList();
        var rows = lead.get(base + "/rows?columns=" + String.join(",", columns)).get("rows");
        var filters = new ArrayList<String>();
        if (rows.isEmpty()) {
            return filters;
        }
        var cells = rows.get(rows.size() / 2).get("cells");
        for (var column : list.get("columns")) {
            var name = column.get("name").asString();
            var kind = column.get("kind").asString();
            var cell = cells.get(name);
            if (List.of("DAY", "MOMENT").contains(kind)) {
                filters.add(name + ":in:this-month");
            }
            if (cell != null && !List.of("AS_OF", "MOMENT").contains(kind)) {
                var value = cell.isObject() ? cell.get("code").asString() : cell.asString();
                if (!value.isEmpty()) {
                    filters.add(name + ":" + operand(kind, value));
                }
            }
        }
        return filters;
    }

    private static String operand(String kind, String value) {
        return switch (kind) {
            case "TEXT" -> "starts:" + URLEncoder.encode(value, StandardCharsets.UTF_8);
            case "DAY", "AMOUNT", "QUANTITY", "COUNT" -> "between:%s..%s".formatted(value, value);
            default -> "any:" + value;
        };
    }
}
