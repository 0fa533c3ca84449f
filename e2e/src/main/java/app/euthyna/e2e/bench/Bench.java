package app.euthyna.e2e.bench;

import app.euthyna.e2e.bench.Times.Ratio;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import tools.jackson.databind.json.JsonMapper;

/**
 * Times the frequent questions over REST in a demo company of so many orders: beside bare JDBC that does the same work,
 * or beside another build, asked in turns. Prints a table, and writes it as JSON beside the database. No figure is
 * asserted.
 */
public final class Bench {

    private static final int WARM_UP = 30;
    /** How far it is, is told every so many rounds. */
    private static final int TOLD = 50;
    /** Lists of a large company are held against those of one with so many orders. */
    private static final int FEW = 1_000;

    private final Path home;
    private final Path file;
    private final int orders;
    private final int rounds;
    private final List<Question> questions;

    private Bench(Path home, Path directory, String made, int orders, int rounds, boolean frequent) {
        this.home = home;
        this.file = file(directory, made, orders);
        this.orders = orders;
        this.rounds = rounds;
        this.questions = Question.all().stream()
                .filter(question -> !frequent || question.rounds() == Question.ALL)
                .toList();
    }

    /**
     * Arguments: the directory for databases, the number of orders, the rounds, whether only what is asked in every
     * round is timed, and the directory of another build if there is one; with -Dbench.lists lists alone are timed. The
     * company is made by the older of the two, which opens no newer one.
     */
    public static void main(String[] arguments) throws Exception {
        var home = Path.of(System.getProperty("euthyna.app"));
        var other = arguments.length > 4 ? Path.of(arguments[4]).toAbsolutePath() : null;
        var maker = other == null ? home : other;
        var stamp = maker.resolve("stamp");
        var made = Files.exists(stamp) ? Files.readString(stamp).strip().substring(0, 8) : "unknown";
        var bench = new Bench(
                home,
                Path.of(arguments[0]),
                made,
                Integer.parseInt(arguments[1]),
                Integer.parseInt(arguments[2]),
                Boolean.parseBoolean(arguments[3]));
        Company.found(maker, bench.file, bench.orders);
        if (Boolean.getBoolean("bench.lists")) {
            bench.lists(maker, made);
        } else if (other == null) {
            bench.besideJdbc();
        } else {
            bench.beside(other);
        }
    }

    /** The database of a company that was made by a build. */
    private static Path file(Path directory, String made, int orders) {
        return directory.resolve("bench-" + orders + "-" + made);
    }

    /**
     * With a company of few orders, unless this is one: what is asked of lists is to take hardly longer in the other.
     */
    private void lists(Path maker, String made) throws Exception {
        var written = new LinkedHashMap<String, Object>();
        Map<String, ListTimes.Timed> timed;
        try (var here = Company.open(home, file, "a")) {
            written.putAll(new FileTimes(here).measure());
            timed = new ListTimes(here.lead).measure();
            timed.forEach((shape, one) -> written.put(shape, one.millis()));
        }
        write("lists", written);
        if (orders > FEW) {
            System.out.printf("the same of %d orders%n", FEW);
            var few = file(file.getParent(), made, FEW);
            Company.found(maker, few, FEW);
            try (var here = Company.open(home, few, "a")) {
                ListTimes.compare(timed, new ListTimes(here.lead).measure());
            }
        }
    }

    /** Both builds are asked the same in turns, each round in another sequence. */
    private void beside(Path other) throws Exception {
        List<Map<String, Times>> timed;
        try (var here = Company.open(home, file, "a");
                var there = Company.open(other, file, "b")) {
            timed = time(here, there);
        }
        var mine = timed.get(0);
        var theirs = timed.get(1);
        System.out.printf("%d orders, %d rounds in turns; milliseconds, median%n", orders, rounds);
        System.out.printf("%-24s %10s %10s   %s%n", "", "this", "other", "this / other, median of rounds (95 %)");
        var written = new LinkedHashMap<String, Object>();
        mine.forEach((name, times) -> {
            Ratio ratio = times.to(theirs.get(name));
            System.out.printf(
                    "%-24s %10.2f %10.2f   %.2f (%.2f to %.2f)%n",
                    name, times.median(), theirs.get(name).median(), ratio.median(), ratio.from(), ratio.until());
            written.put(
                    name,
                    Map.of("this", times.median(), "other", theirs.get(name).median(), "ratio", ratio));
        });
        write("ab", written);
    }

    /** What the application needs, and what bare JDBC needs for the same rows in the same tables. */
    private void besideJdbc() throws Exception {
        Map<String, Times> mine;
        var works = new LinkedHashMap<String, Work>();
        Path copy;
        try (var here = Company.open(home, file, "a")) {
            copy = here.file();
            mine = time(here).get(0);
            try (var looking = DriverManager.getConnection(Company.address(copy) + ";AUTO_SERVER=TRUE", "sa", "")) {
                for (var question : questions) {
                    if (question.rounds() == Question.ALL) {
                        works.put(
                                question.name(),
                                Work.of(looking, () -> question.asking().ask(here, 1_000_003)));
                    }
                }
            }
        }
        Map<String, Times> bare;
        try (var connection = DriverManager.getConnection(Company.address(copy), "sa", "")) {
            bare = byJdbc(connection, works);
        }
        System.out.printf("%d orders, %d rounds; milliseconds, median / 95 of 100%n", orders, rounds);
        System.out.printf(
                "%-24s %18s %18s   %s%n", "", "over REST", "the same by JDBC", "what it does to the database");
        var written = new LinkedHashMap<String, Object>();
        mine.forEach((name, times) -> {
            var floor = bare.get(name);
            System.out.printf(
                    "%-24s %8.2f / %7.2f %18s   %s%n",
                    name,
                    times.median(),
                    times.quantile(0.95),
                    floor == null ? "" : "%8.2f / %7.2f".formatted(floor.median(), floor.quantile(0.95)),
                    works.containsKey(name) ? works.get(name).words() : "");
            written.put(name, Map.of("rest", times.median(), "jdbc", floor == null ? 0 : floor.median()));
        });
        write("floor", written);
    }

    private Map<String, Times> byJdbc(Connection connection, Map<String, Work> works) throws Exception {
        var bare = new LinkedHashMap<String, Times>();
        var floor = new Floor(connection);
        for (var work : works.entrySet()) {
            var sequence = floor.sequence(work.getValue());
            var millis = new ArrayList<Double>();
            for (int round = 0; round < WARM_UP + rounds; round++) {
                var began = System.nanoTime();
                floor.does(work.getValue(), sequence);
                if (round >= WARM_UP) {
                    millis.add((System.nanoTime() - began) / 1e6);
                }
            }
            bare.put(work.getKey(), new Times(millis));
        }
        return bare;
    }

    /** By company, the times of each question. */
    private List<Map<String, Times>> time(Company... companies) {
        var millis = new ArrayList<Map<String, List<Double>>>();
        for (int who = 0; who < companies.length; who++) {
            millis.add(new LinkedHashMap<>());
            for (var question : questions) {
                millis.get(who).put(question.name(), new ArrayList<>());
            }
        }
        var random = new Random(7);
        for (int round = 0; round < WARM_UP + rounds; round++) {
            if (round % TOLD == 0) {
                System.err.printf("round %d of %d%n", round, WARM_UP + rounds);
            }
            var draw = random.nextInt(1_000_000);
            for (var question : questions) {
                var warm = question.rounds() == Question.ALL ? WARM_UP : 0;
                if (round >= warm + Math.min(rounds, question.rounds())) {
                    continue;
                }
                for (int turn = 0; turn < companies.length; turn++) {
                    var who = (turn + round) % companies.length;
                    var began = System.nanoTime();
                    question.asking().ask(companies[who], draw);
                    if (round >= warm) {
                        millis.get(who).get(question.name()).add((System.nanoTime() - began) / 1e6);
                    }
                }
            }
        }
        return millis.stream().map(Bench::times).toList();
    }

    private static Map<String, Times> times(Map<String, List<Double>> millis) {
        var times = new LinkedHashMap<String, Times>();
        millis.forEach((name, all) -> times.put(name, new Times(all)));
        return times;
    }

    private void write(String what, Map<String, Object> figures) throws Exception {
        var json = file.resolveSibling("bench-%d-%s.json".formatted(orders, what));
        Files.writeString(
                json,
                JsonMapper.builder()
                        .build()
                        .writerWithDefaultPrettyPrinter()
                        .writeValueAsString(Map.of("orders", orders, "rounds", rounds, "millis", figures)));
        System.out.println("written to " + json);
    }
}
