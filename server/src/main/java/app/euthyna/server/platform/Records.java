package app.euthyna.server.platform;

import com.fasterxml.jackson.annotation.JsonAutoDetect;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import java.util.Collection;
import java.util.Set;
import java.util.stream.Collectors;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

/** Records of the core kept as JSON in a column: by their components alone, whatever else they can tell. */
public final class Records {

    private static final ObjectMapper JSON = JsonMapper.builder()
            .changeDefaultVisibility(v -> v.withVisibility(PropertyAccessor.ALL, JsonAutoDetect.Visibility.NONE)
                    .withVisibility(PropertyAccessor.FIELD, JsonAutoDetect.Visibility.ANY)
                    .withVisibility(PropertyAccessor.CREATOR, JsonAutoDetect.Visibility.ANY))
            .build();

    private Records() {}

    public static String write(Object record) {
        return JSON.writeValueAsString(record);
    }

    public static <T> T read(String json, Class<T> type) {
        return JSON.readValue(json, type);
    }

    /** A record that may not be kept at all. */
    public static <T> T read(String json, Class<T> type, T otherwise) {
        return json == null ? otherwise : read(json, type);
    }

    /** A set of names as a column holds it: each on a line of its own, and a line break at either end. */
    public static String lines(Collection<String> names) {
        return names.isEmpty() ? "" : names.stream().sorted().collect(Collectors.joining("\n", "\n", "\n"));
    }

    /** The names of such a column. */
    public static Set<String> lines(String kept) {
        return kept == null
                ? Set.of()
                : kept.lines().filter(name -> !name.isEmpty()).collect(Collectors.toSet());
    }
}
