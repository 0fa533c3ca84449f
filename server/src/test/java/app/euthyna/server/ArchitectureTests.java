package app.euthyna.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.source.tree.MethodTree;
import com.sun.source.util.JavacTask;
import com.sun.source.util.TreeScanner;
import com.sun.source.util.Trees;
import com.tngtech.archunit.core.domain.JavaCall;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.domain.properties.HasName;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import jakarta.persistence.Entity;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;

class ArchitectureTests {

    private static final List<String> ORDER = List.of(
            "platform",
            "lists",
            "batch",
            "people",
            "outbox",
            "masterdata",
            "order",
            "flow",
            "check",
            "approval",
            "goods",
            "billing",
            "returns",
            "bank",
            "paper",
            "ledger",
            "unwind",
            "trail",
            "proof");
    private static final JavaClasses SERVER = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("app.euthyna.server");

    @Test
    void serverIsThere() {
        assertThat(SERVER.size()).isGreaterThan(150);
    }

    @Test
    void capabilitiesUseOnlyThoseBeforeThem() {
        for (int at = 0; at < ORDER.size(); at++) {
            for (var later : ORDER.subList(at + 1, ORDER.size())) {
                noClasses()
                        .that()
                        .resideInAPackage("app.euthyna.server." + ORDER.get(at) + "..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("app.euthyna.server." + later + "..")
                        .because("capabilities depend as drawn in package-info")
                        .check(SERVER);
            }
        }
    }

    @Test
    void nothingUsesTheProof() {
        noClasses()
                .that()
                .resideOutsideOfPackage("..proof..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("app.euthyna.server.proof..")
                .because("what is proved must not know its proof")
                .check(SERVER);
    }

    /**
     * The stored form is nobody else's business: other capabilities know it in HQL alone, whose compiler needs the
     * class to be public, and never in Java.
     */
    @Test
    void entitiesStayInsideTheirCapability() {
        var entities =
                SERVER.stream().filter(c -> c.isAnnotatedWith(Entity.class)).toList();
        assertThat(entities).hasSizeGreaterThan(85);
        for (var entity : entities) {
            assertThat(entity.getFields().stream().filter(f -> f.getModifiers().contains(JavaModifier.PUBLIC)))
                    .as("public fields of %s", entity.getSimpleName())
                    .isEmpty();
            noClasses()
                    .that()
                    .resideOutsideOfPackage(entity.getPackageName())
                    .should()
                    .dependOnClassesThat()
                    .haveFullyQualifiedName(entity.getName())
                    .because("the stored form is nobody else's business")
                    .check(SERVER);
        }
    }

    /**
     * Native SQL is where it is the point: locks, sequences, the proof over the whole books; and in the loader of the
     * demo, a module of its own.
     */
    @Test
    void onlyTheseKnowSql() {
        noClasses()
                .that()
                .doNotHaveFullyQualifiedName("app.euthyna.server.proof.BooksProof")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("org.springframework.jdbc..", "javax.sql..")
                .because("everything else is kept and asked through Hibernate")
                .check(SERVER);
        noClasses()
                .that()
                .doNotHaveFullyQualifiedName("app.euthyna.server.platform.Locks")
                .and()
                .doNotHaveFullyQualifiedName("app.euthyna.server.platform.Numbers")
                .should()
                .callMethodWhere(JavaCall.Predicates.target(
                        HasName.Predicates.nameMatching("create.*NativeQuery|createNativeMutationQuery")))
                .because("native questions are for locks and sequences")
                .check(SERVER);
    }

    @Test
    void theRulesWouldNotice() {
        assertThatThrownBy(() -> noClasses()
                        .that()
                        .resideInAPackage("..unwind..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("..server.flow..")
                        .check(SERVER))
                .isInstanceOf(AssertionError.class);
        assertThatThrownBy(() -> noClasses()
                        .should()
                        .callMethodWhere(
                                JavaCall.Predicates.target(HasName.Predicates.nameMatching("createNativeQuery")))
                        .check(SERVER))
                .isInstanceOf(AssertionError.class);
    }

    /** A class that needs more than six others does more than one thing; records hold facts. */
    @Test
    void noClassHasMoreThanSixCollaborators() {
        var constructors = SERVER.stream()
                .filter(type -> !type.isRecord() && !type.isEnum())
                .flatMap(type -> type.getConstructors().stream())
                .toList();
        assertThat(constructors).hasSizeGreaterThan(150);
        assertThat(constructors)
                .allSatisfy(one -> assertThat(one.getRawParameterTypes())
                        .as(one.getFullName())
                        .hasSizeLessThanOrEqualTo(6));
    }

    /** Read by the compiler, since a class file does not tell where a method ends. */
    @Test
    void noMethodIsLongerThanSixtyLines() throws IOException {
        var compiler = ToolProvider.getSystemJavaCompiler();
        var sources = new ArrayList<Path>();
        for (var root : List.of("../core/src/main", "src/main", "../demo/src/main", "../e2e/src/main")) {
            try (var files = Files.walk(Path.of(root))) {
                files.filter(file -> file.toString().endsWith(".java")).forEach(sources::add);
            }
        }
        var tooLong = new TreeMap<String, Long>();
        var read = new AtomicInteger();
        try (var files = compiler.getStandardFileManager(null, null, null)) {
            var task = (JavacTask) compiler.getTask(
                    null,
                    files,
                    problem -> {},
                    List.of("-proc:none"),
                    null,
                    files.getJavaFileObjectsFromPaths(sources));
            var positions = Trees.instance(task).getSourcePositions();
            for (var unit : task.parse()) {
                new TreeScanner<Void, Void>() {
                    @Override
                    public Void visitMethod(MethodTree method, Void nothing) {
                        var lines = unit.getLineMap().getLineNumber(positions.getEndPosition(unit, method))
                                - unit.getLineMap().getLineNumber(positions.getStartPosition(unit, method))
                                + 1;
                        read.incrementAndGet();
                        if (lines > 60) {
                            tooLong.put(unit.getSourceFile().getName() + " " + method.getName(), lines);
                        }
                        return super.visitMethod(method, null);
                    }
                }.scan(unit, null);
            }
        }
        assertThat(read.get()).isGreaterThan(3_000);
        assertThat(tooLong).isEmpty();
    }

    /** What is longer than that tells more than one thing. */
    @Test
    void noFileIsLongerThanSixHundredLines() throws IOException {
        for (var root : List.of("../core/src", "src", "../demo/src", "../e2e/src", "../web/src")) {
            try (var files = Files.walk(Path.of(root))) {
                var sources = files.filter(file -> file.toString().matches(".*\\.(java|tsx?|css)"))
                        .filter(file -> !file.endsWith("schema.d.ts"))
                        .toList();
                assertThat(sources).isNotEmpty();
                for (var source : sources) {
                    assertThat(Files.readAllLines(source)).as("%s", source).hasSizeLessThanOrEqualTo(600);
                }
            }
        }
    }
}
