package app.euthyna.e2e.client;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Stream;

/** The packaged application, started on a free port with a database of its own. */
public final class Application implements AutoCloseable {

    /** What lives for minutes is better started soon than compiled well. */
    private static final List<String> SOON = List.of("-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC");

    /** It rests when in so many looks, each after so long, it took less than such a part of the time. */
    private static final int LOOKS = 3;

    private static final Duration LOOKED_AFTER = Duration.ofSeconds(2);
    private static final int IDLE = 10;

    private final Process process;
    private final int port;
    private final Path log;

    private Application(ProcessBuilder builder, int port) throws IOException, InterruptedException {
        this.log = Files.createTempFile("euthyna", ".log");
        this.process =
                builder.redirectErrorStream(true).redirectOutput(log.toFile()).start();
        this.port = port;
        await();
    }

    /**
     * Starts it from the directory in the system property {@code euthyna.app}, with the demo company of so many orders.
     */
    public static Application start(String database, int demoOrders) throws IOException, InterruptedException {
        return start(database, Map.of("EUTHYNA_DEMO_ORDERS", String.valueOf(demoOrders)));
    }

    /** Starts it from there with what else it is to know. */
    public static Application start(String database, Map<String, String> environment)
            throws IOException, InterruptedException {
        return start(Path.of(System.getProperty("euthyna.app")), database, environment, SOON);
    }

    /** Starts a build from the directory that it was extracted to, with the demo company. */
    public static Application start(Path home, String database, Map<String, String> environment)
            throws IOException, InterruptedException {
        return start(home, database, environment, List.of());
    }

    private static Application start(Path home, String database, Map<String, String> environment, List<String> settings)
            throws IOException, InterruptedException {
        var port = freePort();
        var command = new ArrayList<>(List.of("java", "-Xmx1g"));
        command.addAll(settings);
        if (Files.exists(home.resolve("euthyna.jsa"))) {
            command.add("-XX:SharedArchiveFile=euthyna.jsa");
        }
        // a build of before has the demo company in the jar itself
        var path = Files.exists(home.resolve("demo.jar")) ? "euthyna.jar:demo.jar" : "euthyna.jar";
        command.addAll(List.of("-cp", path, "app.euthyna.server.EuthynaApplication"));
        var builder = new ProcessBuilder(command).directory(home.toFile());
        builder.environment()
                .putAll(Map.of("EUTHYNA_PORT", String.valueOf(port), "EUTHYNA_DB", database, "EUTHYNA_DEMO", "true"));
        builder.environment().putAll(environment);
        return new Application(builder, port);
    }

    /** Serves a company of its own, as the README says, by the command in the root of the project. */
    public static Application serve(Path books, String administratorPassword) throws IOException, InterruptedException {
        var port = freePort();
        var root = Path.of("..").toAbsolutePath().normalize();
        var builder = new ProcessBuilder(
                        root.resolve("euthyna").toString(),
                        "serve",
                        "--port",
                        String.valueOf(port),
                        "--data",
                        books.toString())
                .directory(root.toFile());
        builder.environment().put("EUTHYNA_ADMIN_PASSWORD", administratorPassword);
        return new Application(builder, port);
    }

    private static int freePort() throws IOException {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }

    public String url() {
        return "http://localhost:" + port;
    }

    private void await() throws IOException, InterruptedException {
        var http = HttpClient.newHttpClient();
        var health = HttpRequest.newBuilder(URI.create(url() + "/api/health"))
                .timeout(Duration.ofSeconds(5))
                .build();
        for (int attempt = 0; attempt < 36_000; attempt++) {
            if (!process.isAlive()) {
                throw new IllegalStateException(
                        "the application ended with " + process.exitValue() + ": " + Files.readString(log));
            }
            try {
                if (http.send(health, HttpResponse.BodyHandlers.ofString()).statusCode() == 200) {
                    return;
                }
            } catch (IOException notYet) {
                // it is still starting
            }
            Thread.sleep(200);
        }
        throw new IllegalStateException("the application did not answer in two hours");
    }

    /**
     * Waits until it has done what it does by itself: until it takes next to no processor time, at most so long.
     *
     * @return whether it came to rest
     */
    public boolean rests(Duration atMost) throws InterruptedException {
        var until = System.nanoTime() + atMost.toNanos();
        var before = processorTime();
        for (int still = 0; System.nanoTime() < until; ) {
            Thread.sleep(LOOKED_AFTER.toMillis());
            var now = processorTime();
            still = now.minus(before).multipliedBy(IDLE).compareTo(LOOKED_AFTER) < 0 ? still + 1 : 0;
            if (still == LOOKS) {
                return true;
            }
            before = now;
        }
        return false;
    }

    private Duration processorTime() {
        return process.info().totalCpuDuration().orElse(Duration.ZERO);
    }

    /** What it holds on its heap when all that nobody needs is cleared away; bytes. */
    public long liveHeap() throws IOException {
        var told = new ProcessBuilder("jcmd", String.valueOf(process.pid()), "GC.class_histogram").start();
        try (var lines = told.inputReader()) {
            // the last line: Total, objects, bytes
            return lines.lines()
                    .filter(line -> line.startsWith("Total"))
                    .map(line -> Long.parseLong(line.strip().split("\\s+", -1)[2]))
                    .findFirst()
                    .orElseThrow(() -> new IOException("jcmd told nothing of the heap"));
        }
    }

    /** As a power cut would end it. */
    public void kill() {
        processes().forEach(one -> {
            one.destroyForcibly();
            one.onExit().join();
        });
    }

    /** A command of the project is a script, which ends before the application that it started. */
    private List<ProcessHandle> processes() {
        return Stream.concat(Stream.of(process.toHandle()), process.descendants())
                .toList();
    }

    @Override
    public void close() {
        var all = processes();
        process.destroy();
        try {
            for (var one : all) {
                one.onExit().get(20, TimeUnit.SECONDS);
            }
        } catch (TimeoutException slow) {
            all.forEach(ProcessHandle::destroyForcibly);
        } catch (ExecutionException failed) {
            throw new IllegalStateException(failed);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            all.forEach(ProcessHandle::destroyForcibly);
        }
    }
}
