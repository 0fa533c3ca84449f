package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.PlatformRefusal;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.InputStreamReader;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Currency;
import java.util.List;
import java.util.Properties;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** The words of all refusals are there, and say what they are about. */
class RefusalWordsTests {

    private static final LocalDate DAY = LocalDate.of(2026, 3, 5);

    private static final List<? extends Class<?>> REFUSALS = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS).importPackages("app.euthyna").stream()
                    .filter(one -> one.isAssignableTo(Refusal.class) && !one.isInterface())
                    .map(JavaClass::reflect)
                    .sorted(Comparator.comparing(Class::getName))
                    .toList();

    @Test
    void fillTheirTemplates() throws Exception {
        assertThat(REFUSALS).hasSizeGreaterThan(90);
        for (var type : REFUSALS) {
            // what can't be read says so itself
            if (type == PlatformRefusal.Malformed.class) {
                continue;
            }
            for (var refusal : samples(type)) {
                assertThat(refusal.sentence())
                        .as("%s", refusal)
                        .isNotBlank()
                        .doesNotContain("{", "}", "null", "Optional", "[")
                        .endsWith(".");
                assertThat(refusal.instead())
                        .as("%s", refusal)
                        .doesNotContain("{", "}", "null", "Optional", "[")
                        .matches(said -> said.isEmpty() || said.endsWith("."));
                assertThat(refusal.code()).as("%s", refusal).matches("[a-z][a-z0-9-]+");
                assertThat(Path.of("../docs/problems/" + refusal.code() + ".md"))
                        .as("%s", refusal)
                        .exists();
            }
        }
    }

    @Test
    void areAllSaidBySomeRefusal() throws Exception {
        var said = new TreeSet<String>();
        var written = new TreeSet<String>();
        for (var type : REFUSALS) {
            Class<?> declaring = type;
            while (declaring.getEnclosingClass() != null) {
                declaring = declaring.getEnclosingClass();
            }
            var resource = declaring.getName().replace('.', '/') + ".properties";
            var words = new Properties();
            try (var in = type.getClassLoader().getResourceAsStream(resource)) {
                words.load(new InputStreamReader(in, StandardCharsets.UTF_8));
            }
            words.stringPropertyNames().forEach(key -> written.add(resource + " " + key));
            for (var refusal : samples(type)) {
                for (var name : List.of(type.getSimpleName(), type.getSimpleName() + "." + refusal.variant())) {
                    said.add(resource + " " + name);
                    said.add(resource + " " + name + ".instead");
                }
            }
        }
        assertThat(said).containsAll(written);
    }

    /** Refusals of a kind: one with every component filled, and for each component what else it may be. */
    private static List<Refusal> samples(Class<?> type) throws Exception {
        var components = type.getRecordComponents();
        var of = new ArrayList<List<Object>>();
        for (var component : components) {
            of.add(values(component));
        }
        var samples = new ArrayList<Refusal>();
        samples.add(made(type, components, of.stream().map(some -> some.get(0)).toList()));
        for (int at = 0; at < components.length; at++) {
            for (var other : of.get(at).subList(1, of.get(at).size())) {
                var arguments =
                        new ArrayList<>(of.stream().map(some -> some.get(0)).toList());
                arguments.set(at, other);
                samples.add(made(type, components, arguments));
            }
        }
        return samples;
    }

    private static Refusal made(Class<?> type, RecordComponent[] components, List<Object> arguments) throws Exception {
        var constructor = type.getDeclaredConstructor(
                Arrays.stream(components).map(RecordComponent::getType).toArray(Class<?>[]::new));
        constructor.setAccessible(true);
        return (Refusal) constructor.newInstance(arguments.toArray());
    }

    private static List<Object> values(RecordComponent component) throws Exception {
        var type = component.getType();
        if (type == String.class) {
            return List.of(component.getName() + "-1", "");
        }
        return values(component.getGenericType());
    }

    private static List<Object> values(Type generic) throws Exception {
        var type = generic instanceof ParameterizedType of ? (Class<?>) of.getRawType() : (Class<?>) generic;
        if (type.isEnum()) {
            return List.of(type.getEnumConstants());
        }
        if (type == String.class) {
            return List.of("some text");
        }
        if (type == boolean.class) {
            return List.of(true, false);
        }
        if (type == int.class || type == Integer.class) {
            return List.of(7, 0);
        }
        if (type == long.class) {
            return List.of(8L);
        }
        if (type == LocalDate.class) {
            return List.of(DAY);
        }
        if (type == BigDecimal.class) {
            return List.of(new BigDecimal("4.50"));
        }
        if (type == Quantity.class) {
            return List.of(new Quantity(new BigDecimal("2.5")));
        }
        if (type == Money.class) {
            return List.of(new Money(new BigDecimal("12.30"), Currency.getInstance("EUR")));
        }
        if (type == LineRef.class) {
            return List.of(new LineRef("SO-5", 2));
        }
        if (type == DocumentRef.class) {
            return List.of(new DocumentRef(DocumentKind.RETURN, "RT-3"), new DocumentRef(DocumentKind.DISPATCH, "D-4"));
        }
        if (generic instanceof ParameterizedType of && (type == List.class || type == Set.class)) {
            var element = values(of.getActualTypeArguments()[0]).get(0);
            return List.of(type == List.class ? List.of(element, element) : Set.of(element));
        }
        if (type.isRecord()) {
            var arguments = new ArrayList<Object>();
            for (var component : type.getRecordComponents()) {
                arguments.add(values(component).get(0));
            }
            var constructor = type.getDeclaredConstructor(Arrays.stream(type.getRecordComponents())
                    .map(RecordComponent::getType)
                    .toArray(Class<?>[]::new));
            constructor.setAccessible(true);
            return List.of(constructor.newInstance(arguments.toArray()));
        }
        throw new IllegalStateException("nothing is known to fill " + generic + " with");
    }
}
