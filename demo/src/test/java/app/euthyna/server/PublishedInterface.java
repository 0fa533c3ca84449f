package app.euthyna.server;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Holds answers against the published description of the interface (web/openapi.json): every property that it calls
 * required is there, and none is null that it does not call nullable. The typed client trusts it in both.
 */
final class PublishedInterface {

    private static final JsonNode API =
            JsonMapper.builder().build().readTree(Path.of("../web/openapi.json").toFile());

    private static final List<Operation> OPERATIONS = operations();

    private PublishedInterface() {}

    private record Operation(String method, Pattern path, int parameters, JsonNode responses) {}

    private static List<Operation> operations() {
        var operations = new ArrayList<Operation>();
        API.get("paths")
                .properties()
                .forEach(path -> path.getValue()
                        .properties()
                        .forEach(operation -> operations.add(new Operation(
                                operation.getKey().toUpperCase(Locale.ROOT),
                                Pattern.compile(path.getKey().replaceAll("\\{[^}]+}", "[^/]+")),
                                path.getKey().split("\\{", -1).length,
                                operation.getValue().get("responses")))));
        operations.sort(Comparator.comparingInt(Operation::parameters));
        return operations;
    }

    /** What in the body of a successful answer is not as it was published, each with its place; empty where all is. */
    static List<String> differences(String method, String path, int status, JsonNode body) {
        var differences = new ArrayList<String>();
        schema(method, path, status).ifPresent(schema -> compare(method + " " + path, schema, body, differences));
        return differences;
    }

    private static Optional<JsonNode> schema(String method, String path, int status) {
        return OPERATIONS.stream()
                .filter(operation -> operation.method().equals(method)
                        && operation.path().matcher(path).matches())
                .findFirst()
                .map(operation -> operation
                        .responses()
                        .path(String.valueOf(status))
                        .path("content")
                        .path("application/json")
                        .path("schema"))
                .filter(schema -> !schema.isMissingNode());
    }

    private static void compare(String at, JsonNode schema, JsonNode value, List<String> differences) {
        if (schema.has("$ref")) {
            var name = schema.get("$ref").asString().replaceFirst(".*/", "");
            compare(name, API.get("components").get("schemas").get(name), value, differences);
            return;
        }
        if (schema.has("oneOf")) {
            // a record or null: that is the only choice that is published
            if (!value.isNull()) {
                compare(at, schema.get("oneOf").get(0), value, differences);
            }
            return;
        }
        if (value.isNull()) {
            if (!nullable(schema)) {
                differences.add(at + " is null");
            }
            return;
        }
        for (var name : schema.path("required")) {
            if (!value.has(name.asString())) {
                differences.add(at + "." + name.asString() + " is missing");
            }
        }
        for (var property : schema.path("properties").properties()) {
            if (value.has(property.getKey())) {
                compare(at + "." + property.getKey(), property.getValue(), value.get(property.getKey()), differences);
            }
        }
        if (schema.has("items")) {
            for (var element : value) {
                compare(at + "[]", schema.get("items"), element, differences);
            }
        }
        if (schema.path("additionalProperties").isObject()) {
            for (var element : value) {
                compare(at + "{}", schema.get("additionalProperties"), element, differences);
            }
        }
    }

    private static boolean nullable(JsonNode schema) {
        for (var type : schema.path("type")) {
            if (type.asString().equals("null")) {
                return true;
            }
        }
        return false;
    }
}
