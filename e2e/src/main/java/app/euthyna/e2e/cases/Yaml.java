package app.euthyna.e2e.cases;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a case says, read with a word for everything that is not as it should be. */
record Yaml(Map<String, Object> map, String where) {

    static Yaml of(Object value, String where) {
        if (!(value instanceof Map<?, ?> map)) {
            throw new CaseFailed(where + ": a mapping is expected, found " + value);
        }
        var copy = new LinkedHashMap<String, Object>();
        map.forEach((key, v) -> copy.put(String.valueOf(key), v));
        return new Yaml(copy, where);
    }

    /** Fails on every word that is not among those known. */
    Yaml only(Set<String> known) {
        map.keySet().stream().filter(word -> !known.contains(word)).findFirst().ifPresent(word -> {
            throw new CaseFailed(where + ": the word '" + word + "' is not known");
        });
        return this;
    }

    boolean has(String key) {
        return map.get(key) != null;
    }

    String text(String key) {
        if (!has(key)) {
            throw new CaseFailed(where + ": '" + key + "' is missing");
        }
        return String.valueOf(map.get(key));
    }

    String text(String key, String otherwise) {
        return has(key) ? text(key) : otherwise;
    }

    BigDecimal decimal(String key) {
        return figure(map.get(key), where + "." + key);
    }

    BigDecimal decimal(String key, BigDecimal otherwise) {
        return has(key) ? decimal(key) : otherwise;
    }

    static BigDecimal figure(Object value, String where) {
        try {
            return new BigDecimal(String.valueOf(value));
        } catch (NumberFormatException none) {
            throw new CaseFailed(where + ": a number is expected, found " + value);
        }
    }

    boolean flag(String key) {
        return has(key) && Boolean.parseBoolean(text(key));
    }

    LocalDate date(String key) {
        var value = map.get(key);
        return value instanceof Date date
                ? date.toInstant().atZone(ZoneOffset.UTC).toLocalDate()
                : LocalDate.parse(text(key));
    }

    LocalDate date(String key, LocalDate otherwise) {
        return has(key) ? date(key) : otherwise;
    }

    Yaml section(String key) {
        return of(map.getOrDefault(key, Map.of()), where + "." + key);
    }

    List<Yaml> sections(String key) {
        var found = new ArrayList<Yaml>();
        for (var value : list(key)) {
            found.add(of(value, where + "." + key));
        }
        return found;
    }

    List<?> list(String key) {
        var value = map.get(key);
        if (value == null) {
            return List.of();
        }
        return value instanceof List<?> list ? list : List.of(value);
    }
}
