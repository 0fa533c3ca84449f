package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.Type;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

class PublishedInterfaceTests extends OnServer {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(SerializationFeature.INDENT_OUTPUT)
            .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
            .enable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
            .build();

    /** {@code -Dopenapi.write} writes it anew. */
    @Test
    void typedClientIsMadeFromTheRunningApi() throws IOException {
        var file = Path.of("../web/openapi.json");
        var running = auditor.get("/api/openapi.json").body();
        ((tools.jackson.databind.node.ObjectNode) running).remove("servers");
        if (System.getProperty("openapi.write") != null) {
            Files.writeString(file, JSON.writeValueAsString(JSON.treeToValue(running, Object.class)) + "\n");
        }
        assertThat(JSON.readTree(Files.readString(file)).equals(running))
                .as("web/openapi.json is what the API says; -Dopenapi.write writes it anew")
                .isTrue();
    }

    /** The description names a record by its last name alone, so that of two namesakes it would describe only one. */
    @Test
    void noTwoRecordsOfTheApiShareAName() {
        var found = new HashSet<Class<?>>();
        handlers.getHandlerMethods().values().stream()
                .filter(handler -> handler.getBeanType().getPackageName().startsWith("app.euthyna"))
                .forEach(handler -> {
                    gather(handler.getMethod().getGenericReturnType(), found);
                    Arrays.stream(handler.getMethod().getGenericParameterTypes())
                            .forEach(type -> gather(type, found));
                });
        var names = found.stream().collect(Collectors.groupingBy(Class::getSimpleName));
        assertThat(names.values().stream().filter(namesakes -> namesakes.size() > 1))
                .isEmpty();
    }

    private static void gather(Type type, Set<Class<?>> found) {
        if (type instanceof ParameterizedType of) {
            Arrays.stream(of.getActualTypeArguments()).forEach(part -> gather(part, found));
        } else if (type instanceof Class<?> record && record.isRecord() && found.add(record)) {
            Arrays.stream(record.getRecordComponents()).forEach(part -> gather(part.getGenericType(), found));
        }
    }

    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping handlers;
}
