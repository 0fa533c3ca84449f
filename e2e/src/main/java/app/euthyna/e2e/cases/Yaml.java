package app.euthyna.e2e.cases;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;

/** What a case says, read with a word for everything that is not as it should be. */
record Yaml(JsonNode node, String where) {

    private static final YAMLMapper MAPPER = YAMLMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .enable(DeserializationFeature.FAIL_ON_READING_DUP_TREE_KEY)
            .build();

    /** Reads a whole file. */
    static Yaml read(String text, String where) {
        return of(MAPPER.readTree(text), where);
    }

    static Yaml of(JsonNode value, String where) {
        if (!value.isObject()) {
            throw new CaseFailed(where + ": a mapping is expected, found " + value);
        }
        return new Yaml(value, where);
    }

    /** The words that it says, in their order. */
    List<String> words() {
        return List.copyOf(node.propertyNames());
    }

    /** What it says to each word. */
    void each(BiConsumer<String, JsonNode> said) {
        node.forEachEntry(said);
    }

    /** Fails on every word that is not among those known. */
    Yaml only(Set<String> known) {
        words().stream().filter(word -> !known.contains(word)).findFirst().ifPresent(word -> {
            throw new CaseFailed(where + ": the word '" + word + "' is not known");
        });
        return this;
    }

    boolean has(String key) {
        return node.hasNonNull(key);
    }

    JsonNode get(String key) {
        if (!has(key)) {
            throw new CaseFailed(where + ": '" + key + "' is missing");
        }
        return node.get(key);
    }

    String text(String key) {
        return get(key).asString();
    }

    String text(String key, String otherwise) {
        return has(key) ? text(key) : otherwise;
    }

    BigDecimal decimal(String key) {
        return figure(get(key), where + "." + key);
    }

    BigDecimal decimal(String key, BigDecimal otherwise) {
        return has(key) ? decimal(key) : otherwise;
    }

    static BigDecimal figure(JsonNode value, String where) {
        return value.asDecimalOpt().orElseThrow(() -> new CaseFailed(where + ": a number is expected, found " + value));
    }

    boolean flag(String key) {
        return has(key) && get(key).asBoolean();
    }

    LocalDate date(String key) {
        try {
            return LocalDate.parse(text(key));
        } catch (DateTimeParseException none) {
            throw new CaseFailed(where + "." + key + ": a day is expected, found " + text(key), none);
        }
    }

    LocalDate date(String key, LocalDate otherwise) {
        return has(key) ? date(key) : otherwise;
    }

    Yaml section(String key) {
        return has(key) ? of(get(key), where + "." + key) : new Yaml(JsonNodeFactory.instance.objectNode(), where);
    }

    List<Yaml> sections(String key) {
        return values(key).map(value -> of(value, where + "." + key)).toList();
    }

    /** A list of texts; one that stands alone is a list too. */
    List<String> texts(String key) {
        return values(key).map(JsonNode::asString).collect(Collectors.toCollection(ArrayList::new));
    }

    private Stream<JsonNode> values(String key) {
        if (!has(key)) {
            return Stream.of();
        }
        return get(key).isArray() ? get(key).valueStream() : Stream.of(get(key));
    }
}
