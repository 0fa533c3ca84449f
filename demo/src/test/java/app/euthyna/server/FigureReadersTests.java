package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.lang.reflect.Method;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.math.BigDecimal;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.core.annotation.AnnotatedElementUtils;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Role × operation × field (section 15 of the domain reference): every figure that an operation answers, and every PO
 * number, is one that each role which may ask for it may read, or is marked with its readers.
 */
class FigureReadersTests extends OnServer {

    /** Figures that count goods, rates that stand in a law, what somebody enters as a setting. */
    private static final Set<String> QUANTITIES = Set.of(
            "quantity",
            "left",
            "minimum",
            "reserved",
            "waiting",
            "free",
            "minStock",
            "weight",
            "volume",
            "onHand",
            "inspection",
            "dispatched",
            "returnable",
            "authorised",
            "awaited",
            "creditable",
            "creditableAhead",
            "inInspection",
            "received",
            "restocked",
            "scrapped",
            "sentBack",
            "granted",
            "used",
            "from");

    /** Rates that stand in a law. */
    private static final Set<String> PUBLIC = Set.of("vatRate");

    /** Settings, which whoever keeps them reads: by the address where they are kept. */
    private static final List<String> SETTINGS = List.of(
            "/api/rules", "/api/approval-rules", "/api/customers/{code}/approval-rules", "/api/items/{code}/prices");

    /**
     * Decided by the server for each row or list, by what it is: see {@link LeakTests}; and a quantity among figures of
     * its name.
     */
    private static final Set<String> OTHERWISE =
            Set.of("GroupView.measured", "LaneView.value", "ReturnLineView.creditedAhead");

    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping operations;

    private static Set<Role> asks(String path, Set<RequestMethod> methods, Method method) {
        if (methods.contains(RequestMethod.GET)) {
            return Reading.may(path.replaceAll("[{}]", ""));
        }
        if (path.startsWith("/api/orders/") || path.startsWith("/api/unwind/")) {
            return Reading.may(path.replaceAll("[{}]", ""));
        }
        var rule = AnnotatedElementUtils.findMergedAnnotation(method, PreAuthorize.class);
        return rule == null || !rule.value().contains("Role")
                ? EnumSet.allOf(Role.class)
                : Arrays.stream(Role.values())
                        .filter(role -> rule.value().contains("'" + role + "'"))
                        .collect(Collectors.toCollection(() -> EnumSet.noneOf(Role.class)));
    }

    private record Field(String path, RecordComponent component, Optional<ReadBy.Group> group) {
        private String name() {
            return component.getDeclaringRecord().getSimpleName() + path;
        }
    }

    private static List<Field> fields(Type type) {
        var found = new ArrayList<Field>();
        walk(type, "", Optional.empty(), new ArrayDeque<>(), found);
        return found;
    }

    private static void walk(
            Type type, String path, Optional<ReadBy.Group> group, Deque<Type> open, List<Field> found) {
        if (type instanceof ParameterizedType several) {
            for (var part : several.getActualTypeArguments()) {
                walk(part, path, group, open, found);
            }
        }
        if (!(type instanceof Class<?> one) || !one.isRecord() || open.contains(type)) {
            return;
        }
        open.push(type);
        for (var component : one.getRecordComponents()) {
            var marked = component.getAnnotation(ReadBy.class);
            var its = marked == null ? group : Optional.of(marked.value());
            var name = path + "." + component.getName();
            found.add(new Field(name, component, its));
            walk(component.getGenericType(), name, its, open, found);
        }
        open.pop();
    }

    private static boolean isFigure(Field field) {
        var name = field.component().getName();
        return (Set.of(BigDecimal.class, Money.class).contains(field.component().getType())
                        && !QUANTITIES.contains(name)
                        && !PUBLIC.contains(name)
                        && !OTHERWISE.contains(field.name().replaceFirst("[.].*[.]", ".")))
                || (name.equals("po") && field.component().getType() == String.class);
    }

    /** What a figure is that nobody has marked. */
    private static ReadBy.Group readers(String path, Field field) {
        var name = field.component().getName().toLowerCase(Locale.ROOT);
        if (SETTINGS.contains(path)) {
            return ReadBy.Group.TERMS;
        }
        if (field.path().matches(".*[.](accounts|entries|ledger|balances)[.].*")) {
            return ReadBy.Group.BOOKS;
        }
        return name.contains("cost")
                        || name.contains("floor")
                        || name.contains("margin")
                        || field.path().matches(".*[.]shelves[.].*value")
                ? ReadBy.Group.COSTS
                : ReadBy.Group.SELLING;
    }

    /** Who may ask for what, and may not read something of the answer that is not marked. */
    @Test
    void everyFigureHasItsReaders() {
        var without = new TreeMap<String, Set<Role>>();
        var looked = new AtomicInteger();
        operations.getHandlerMethods().forEach((mapping, handler) -> {
            for (var path : mapping.getPatternValues()) {
                if (!path.startsWith("/api/")) {
                    continue;
                }
                var methods = mapping.getMethodsCondition().getMethods();
                var asks = asks(path, methods, handler.getMethod());
                for (var field : fields(handler.getMethod().getGenericReturnType())) {
                    if (!isFigure(field)) {
                        continue;
                    }
                    looked.incrementAndGet();
                    var barred = asks.stream()
                            .filter(role -> field.group().isEmpty()
                                    && !readers(path, field).isRead(role))
                            .collect(Collectors.toCollection(() -> EnumSet.noneOf(Role.class)));
                    if (!barred.isEmpty()) {
                        without.put(methods + " " + path + " " + field.name(), barred);
                    }
                }
            }
        });
        assertThat(looked.get()).isGreaterThan(500);
        assertThat(without).isEmpty();
    }
}
