package app.euthyna.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import jakarta.persistence.Entity;
import java.util.List;
import org.junit.jupiter.api.Test;

class ArchitectureTests {

    private static final List<String> ORDER = List.of(
            "platform",
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

    @Test
    void entitiesStayInsideTheirCapability() {
        classes()
                .that()
                .areAnnotatedWith(Entity.class)
                .should()
                .notBePublic()
                .because("the stored form is nobody else's business")
                .check(SERVER);
        assertThat(SERVER.stream()
                        .filter(c -> c.isAnnotatedWith(Entity.class))
                        .filter(c -> !c.getModifiers().contains(JavaModifier.PUBLIC)))
                .hasSizeGreaterThan(8);
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
        assertThatThrownBy(() -> classes()
                        .that()
                        .areAnnotatedWith(Entity.class)
                        .should()
                        .bePublic()
                        .check(SERVER))
                .isInstanceOf(AssertionError.class);
    }
}
