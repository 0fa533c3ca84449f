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

/** The packaged application, started on a free port with a database of its own. */
public final class Application implements AutoCloseable {

    private final Process process;
    private final int port;

    private Application(Process process, int port) {
        this.process = process;
        this.port = port;
    }

    /**
     * Starts it from the directory in the system property {@code euthyna.app}, with the demo company of so many orders.
     */
    public static Application start(String database, int demoOrders) throws IOException, InterruptedException {
        var home = Path.of(System.getProperty("euthyna.app"));
        int port;
        try (var socket = new ServerSocket(0)) {
            port = socket.getLocalPort();
        }
        var command = new ArrayList<>(List.of("java", "-Xmx1g"));
        if (Files.exists(home.resolve("euthyna.jsa"))) {
            command.add("-XX:SharedArchiveFile=euthyna.jsa");
        }
        command.addAll(List.of("-jar", "euthyna.jar"));
        var builder = new ProcessBuilder(command)
                .directory(home.toFile())
                .redirectErrorStream(true)
                .redirectOutput(Files.createTempFile("euthyna", ".log").toFile());
        builder.environment()
                .putAll(Map.of(
                        "EUTHYNA_PORT",
                        String.valueOf(port),
                        "EUTHYNA_DB",
                        database,
                        "EUTHYNA_DEMO",
                        "true",
                        "EUTHYNA_DEMO_ORDERS",
                        String.valueOf(demoOrders)));
        var application = new Application(builder.start(), port);
        application.await();
        return application;
    }

    public String url() {
        return "http://localhost:" + port;
    }

    private void await() throws InterruptedException {
        var http = HttpClient.newHttpClient();
        var health = HttpRequest.newBuilder(URI.create(url() + "/api/health"))
                .timeout(Duration.ofSeconds(5))
                .build();
        for (int attempt = 0; attempt < 36_000; attempt++) {
            if (!process.isAlive()) {
                throw new IllegalStateException("the application ended with " + process.exitValue());
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

    /** As a power cut would end it. */
    public void kill() {
        process.destroyForcibly().onExit().join();
    }

    @Override
    public void close() {
        process.destroy();
        try {
            process.onExit().get(20, TimeUnit.SECONDS);
        } catch (TimeoutException slow) {
            kill();
        } catch (ExecutionException failed) {
            throw new IllegalStateException(failed);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            kill();
        }
    }
}
