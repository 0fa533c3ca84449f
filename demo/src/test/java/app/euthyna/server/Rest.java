package app.euthyna.server;

import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;

import jakarta.servlet.http.HttpServletRequest;
import java.util.UUID;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.AbstractMockHttpServletRequestBuilder;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The REST interface as one user sees it, through the whole stack down to a real database. */
record Rest(MockMvc mvc, String username, String role) {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** Status and body of an answer. */
    record Answer(int status, JsonNode body) {
        String code() {
            return body.path("code").asString("");
        }

        String text(String field) {
            return body.get(field).asString();
        }
    }

    Answer get(String path) {
        return exchange(MockMvcRequestBuilders.get(path));
    }

    Answer post(String path, String json) {
        return send("POST", path, json, UUID.randomUUID().toString());
    }

    /** A command of its own. */
    Answer send(String method, String path, String body) {
        return send(method, path, body, UUID.randomUUID().toString());
    }

    Answer send(String method, String path, String json, String key) {
        var request = MockMvcRequestBuilders.request(org.springframework.http.HttpMethod.valueOf(method), path);
        request.contentType(MediaType.APPLICATION_JSON).content(json);
        if (key != null) {
            request.header("Idempotency-Key", key);
        }
        return exchange(request);
    }

    Answer upload(String content, String query) {
        return upload(content.getBytes(java.nio.charset.StandardCharsets.UTF_8), query);
    }

    /** Imports a file of orders, and waits for what became of it, however long a busy machine takes. */
    Answer upload(byte[] content, String query) {
        var answer = uploadTo("/api/imports" + query, content);
        while (answer.body().path("progress").asString("").equals("RUNNING")) {
            try {
                Thread.sleep(100);
            } catch (InterruptedException stopped) {
                throw new IllegalStateException(stopped);
            }
            answer = get("/api/imports/" + answer.text("id"));
        }
        return answer;
    }

    Answer uploadTo(String path, byte[] content) {
        return uploadTo(path, "orders.csv", content);
    }

    Answer uploadTo(String path, String name, byte[] content) {
        return exchange(MockMvcRequestBuilders.multipart(path)
                .file(new MockMultipartFile("file", name, "text/csv", content))
                .header("Idempotency-Key", UUID.randomUUID().toString()));
    }

    /** What a file that is downloaded consists of. */
    byte[] bytes(String path) throws Exception {
        return mvc.perform(MockMvcRequestBuilders.get(path).with(user(username).roles(role)))
                .andReturn()
                .getResponse()
                .getContentAsByteArray();
    }

    /** A file as it comes, or the status where none does. */
    byte[] file(String path) {
        try {
            var response = mvc.perform(
                            MockMvcRequestBuilders.get(path).with(user(username).roles(role)))
                    .andReturn()
                    .getResponse();
            return response.getStatus() == 200 ? response.getContentAsByteArray() : new byte[0];
        } catch (Exception broken) {
            throw new IllegalStateException(broken);
        }
    }

    private Answer exchange(AbstractMockHttpServletRequestBuilder<?> request) {
        try {
            var done = mvc.perform(request.with(user(username).roles(role)).with(csrf()))
                    .andReturn();
            var response = done.getResponse();
            response.setCharacterEncoding("UTF-8");
            var text = response.getContentAsString();
            var answer =
                    new Answer(response.getStatus(), text.isBlank() ? JSON.createObjectNode() : JSON.readTree(text));
            asPublished(done.getRequest(), answer);
            return answer;
        } catch (Exception broken) {
            throw new IllegalStateException(broken);
        }
    }

    /** Every answer that a test gets must be as the interface describes it, whatever the test is about. */
    private static void asPublished(HttpServletRequest request, Answer answer) {
        if (answer.status() < 300) {
            var differences = PublishedInterface.differences(
                    request.getMethod(), request.getRequestURI(), answer.status(), answer.body());
            if (!differences.isEmpty()) {
                throw new AssertionError("web/openapi.json says otherwise: " + differences);
            }
        }
    }
}
