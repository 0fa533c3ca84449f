package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Senders who mean no good, or whose line is bad, on the packaged application. */
class SendersTests {

    private static Application application;

    @BeforeAll
    static void start() throws Exception {
        application = Application.start("jdbc:h2:mem:senders;DB_CLOSE_DELAY=-1", 0);
    }

    @AfterAll
    static void stop() {
        application.close();
    }

    private static Socket half(String path, String type, int length, String sent) throws IOException {
        var socket = new Socket("localhost", URI.create(application.url()).getPort());
        socket.getOutputStream()
                .write(("POST " + path + " HTTP/1.1\r\nHost: localhost\r\nContent-Type: " + type
                                + "\r\nContent-Length: " + length + "\r\n\r\n" + sent)
                        .getBytes(StandardCharsets.US_ASCII));
        socket.getOutputStream().flush();
        return socket;
    }

    private static String status(Socket socket) throws IOException {
        var line = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII))
                .readLine();
        // "HTTP/1.1 408 ..."
        return line == null ? "closed" : line.substring(9, 12);
    }

    /** 300 sign-ins of which half came: others are answered within a second. */
    @Test
    void whoStopHalfWayKeepNobodyWaiting() throws Exception {
        var sockets = new ArrayList<Socket>();
        try {
            for (int at = 0; at < 300; at++) {
                sockets.add(half("/api/session", "application/json", 80, "{\"username\":"));
            }
            var http = HttpClient.newHttpClient();
            for (int at = 0; at < 5; at++) {
                var started = System.nanoTime();
                var health = http.send(
                        HttpRequest.newBuilder(URI.create(application.url() + "/api/health"))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
                assertThat(health.statusCode()).isEqualTo(200);
                assertThat(Duration.ofNanos(System.nanoTime() - started)).isLessThan(Duration.ofSeconds(1));
            }
        } finally {
            for (var socket : sockets) {
                socket.close();
            }
        }
    }

    /** A byte a second is cut off after 15 seconds. */
    @Test
    void whoSendAByteASecondAreCutOff() throws Exception {
        try (var socket = half("/api/session", "application/json", 200, "{")) {
            socket.setSoTimeout(100);
            var started = System.nanoTime();
            var answer = "";
            while (answer.isEmpty()
                    && Duration.ofNanos(System.nanoTime() - started).toSeconds() < 25) {
                socket.getOutputStream().write(' ');
                Thread.sleep(900);
                try {
                    answer = status(socket);
                } catch (SocketTimeoutException notYet) {
                    // it still waits
                }
            }
            assertThat(answer).isEqualTo("408");
            assertThat(Duration.ofNanos(System.nanoTime() - started))
                    .isBetween(Duration.ofSeconds(13), Duration.ofSeconds(19));
        }
    }

    /** Nothing but JSON reaches a command, and no body of more than 4 MB; a file only of someone signed in. */
    @Test
    void whoSendSomethingElseAreRefusedUnread() throws Exception {
        for (var type : List.of("application/yaml", "text/plain", "application/xml", "*/*", "nonsense")) {
            try (var socket = half("/api/session", type, 5, "a: 1\n")) {
                assertThat(status(socket)).as(type).isEqualTo("415");
            }
        }
        try (var socket = half("/api/session", "application/json", 90_000_000, "{")) {
            assertThat(status(socket)).isEqualTo("413");
        }
        try (var socket = half("/api/bank-statements", "multipart/form-data; boundary=x", 10_000_000, "--x")) {
            assertThat(status(socket)).isEqualTo("403");
        }
        try (var socket = half("/api/bank-statements", "multipart/form-data", 10, "--x")) {
            assertThat(status(socket)).isEqualTo("400");
        }
    }

    /**
     * Letters that are none, and the address of errors itself, are answered as what they are, and are no error of ours.
     */
    @Test
    void whoAskForWhatIsNoneAreToldSo() {
        var api = Api.signIn(application.url(), "lead", "lead");
        for (var path : List.of(
                "/api/find?q=%ff",
                "/api/find?q=%c0%af",
                "/api/orders?after=%ff",
                "/api/orders/%ff",
                "/api/orders/a%2fb",
                "/api/orders/%00")) {
            assertThatThrownBy(() -> api.get(path)).as(path).isInstanceOfSatisfying(Api.Refused.class, refused -> {
                assertThat(refused.status()).isEqualTo(400);
                assertThat(refused.code()).isEqualTo("malformed");
            });
        }
        for (var path : List.of("/error", "/api/nowhere")) {
            assertThatThrownBy(() -> api.get(path))
                    .as(path)
                    .isInstanceOfSatisfying(
                            Api.Refused.class,
                            refused -> assertThat(refused.status()).isEqualTo(404));
        }
    }
}
