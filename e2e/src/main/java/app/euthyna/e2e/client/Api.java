package app.euthyna.e2e.client;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** One signed-in user's view of the REST interface. */
public final class Api {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final String url;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder()
            .cookieHandler(cookies)
            .connectTimeout(Duration.ofSeconds(10))
            .build();

    private Api(String url) {
        this.url = url;
    }

    /** A refused request. */
    public static final class Refused extends RuntimeException {

        private static final long serialVersionUID = 1L;

        private final int status;
        private final String code;

        Refused(int status, String code, String detail) {
            super(code + ": " + detail);
            this.status = status;
            this.code = code;
        }

        public int status() {
            return status;
        }

        public String code() {
            return code;
        }
    }

    /** Signs in; demo users have their name as password. */
    public static Api signIn(String url, String username, String password) {
        var api = new Api(url);
        api.get("/api/session");
        api.send("POST", "/api/session", Map.of("username", username, "password", password), null);
        return api;
    }

    public JsonNode get(String path) {
        return send("GET", path, null, null);
    }

    /** Reads a file as it comes, and keeps none of it: how many lines it has. */
    public long lines(String path) {
        var response =
                sent(HttpRequest.newBuilder(URI.create(url + path)).build(), HttpResponse.BodyHandlers.ofLines());
        try (var lines = response.body()) {
            if (response.statusCode() >= 400) {
                throw new Refused(response.statusCode(), "", lines.collect(Collectors.joining("\n")));
            }
            return lines.count();
        }
    }

    /** Sends a command under a key of its own. */
    public JsonNode post(String path, Object body) {
        return send("POST", path, body, UUID.randomUUID().toString());
    }

    public JsonNode put(String path, Object body) {
        return send("PUT", path, body, UUID.randomUUID().toString());
    }

    /** Sends a request; a key makes it a command that has its effect once. */
    public JsonNode send(String method, String path, Object body, String key) {
        var request = HttpRequest.newBuilder(URI.create(url + path))
                .timeout(Duration.ofMinutes(10))
                .method(
                        method,
                        body == null
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body)));
        if (body != null) {
            request.header("Content-Type", "application/json");
        }
        if (key != null) {
            request.header("Idempotency-Key", key);
        }
        return exchange(request);
    }

    /** Uploads a file as a form would. */
    public JsonNode upload(String path, String fileName, byte[] content) {
        var boundary = UUID.randomUUID().toString();
        var head = ("--" + boundary + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" + fileName
                        + "\"\r\nContent-Type: text/csv\r\n\r\n")
                .getBytes(StandardCharsets.UTF_8);
        var tail = ("\r\n--" + boundary + "--\r\n").getBytes(StandardCharsets.UTF_8);
        var request = HttpRequest.newBuilder(URI.create(url + path))
                .timeout(Duration.ofMinutes(30))
                .header("Content-Type", "multipart/form-data; boundary=" + boundary)
                .POST(HttpRequest.BodyPublishers.concat(
                        HttpRequest.BodyPublishers.ofByteArray(head),
                        HttpRequest.BodyPublishers.ofByteArray(content),
                        HttpRequest.BodyPublishers.ofByteArray(tail)));
        return exchange(request);
    }

    private JsonNode exchange(HttpRequest.Builder request) {
        cookies.getCookieStore().getCookies().stream()
                .filter(c -> c.getName().equals("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .ifPresent(token -> request.header("X-XSRF-TOKEN", token));
        var response = sent(request.build(), HttpResponse.BodyHandlers.ofString());
        var json = response.body().isBlank() ? JSON.createObjectNode() : JSON.readTree(response.body());
        if (response.statusCode() >= 400) {
            throw new Refused(
                    response.statusCode(),
                    json.path("code").asString(""),
                    json.path("detail").asString(response.body()));
        }
        return json;
    }

    private <T> HttpResponse<T> sent(HttpRequest request, HttpResponse.BodyHandler<T> read) {
        try {
            return http.send(request, read);
        } catch (IOException lost) {
            throw new UncheckedIOException(lost);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(stopped);
        }
    }

    public static String encode(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
