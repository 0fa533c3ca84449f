package app.euthyna.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.Test;

class ArchitectureTests {

    private static final List<String> ORDER = List.of(
            "shared",
            "lists",
            "order",
            "flow",
            "check",
            "approval",
            "goods",
            "billing",
            "returns",
            "ledger",
            "unwind",
            "trail",
            "proof");
    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("app.euthyna.core");

    @Test
    void coreIsThere() {
        assertThat(CORE.size()).isGreaterThan(100);
    }

    @Test
    void coreKnowsNoFrameworkNoClockAndNoFiles() {
        classes()
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(
                        "app.euthyna.core..",
                        "java.lang..",
                        "java.util..",
                        "java.math..",
                        "java.time..",
                        "java.text..",
                        "org.apache.commons.text.similarity..",
                        "java.security..",
                        "java.nio.charset..")
                .because("facts come in and decisions go out")
                .check(CORE);
        noClasses()
                .should()
                .callMethod(java.time.LocalDate.class, "now")
                .orShould()
                .callMethod(java.time.Instant.class, "now")
                .because("dates are arguments")
                .check(CORE);
    }

    @Test
    void capabilitiesUseOnlyThoseBeforeThem() {
        for (int at = 0; at < ORDER.size(); at++) {
            for (var later : ORDER.subList(at + 1, ORDER.size())) {
                noClasses()
                        .that()
                        .resideInAPackage("app.euthyna.core." + ORDER.get(at) + "..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("app.euthyna.core." + later + "..")
                        .because("capabilities depend as drawn in package-info")
                        .check(CORE);
            }
        }
    }

    @Test
    void theRuleWouldNoticeADependencyTheOtherWay() {
        assertThatThrownBy(() -> noClasses()
                        .that()
                        .resideInAPackage("..proof..")
                        .should()
                        .dependOnClassesThat()
                        .resideInAPackage("..trail..")
                        .check(CORE))
                .isInstanceOf(AssertionError.class);
    }
}
