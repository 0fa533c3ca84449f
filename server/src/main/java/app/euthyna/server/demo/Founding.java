package app.euthyna.server.demo;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Base64;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Sets up a new database when the application first starts on it, before it answers anybody and before any job runs.
 */
@Component
class Founding implements SmartLifecycle {

    private volatile boolean done;

    private final People people;
    private final Company company;
    private final MasterData masterData;
    private final DemoCompany demoCompany;
    private final FoundingFile file;
    private final TransactionTemplate transactions;
    private final CompanyRulesStore rules;
    private final Clock clock;
    private final boolean demo;
    private final int demoOrders;
    private final Optional<String> adminPassword;
    private final String name;
    private final String currency;
    private final String zone;

    Founding(
            People people,
            Company company,
            MasterData masterData,
            DemoCompany demoCompany,
            FoundingFile file,
            TransactionTemplate transactions,
            CompanyRulesStore rules,
            Clock clock,
            @Value("${euthyna.demo}") boolean demo,
            @Value("${euthyna.demo-orders}") int demoOrders,
            @Value("${EUTHYNA_ADMIN_PASSWORD:#{null}}") Optional<String> adminPassword,
            @Value("${EUTHYNA_COMPANY:New company}") String name,
            @Value("${EUTHYNA_CURRENCY:EUR}") String currency,
            @Value("${EUTHYNA_TIME_ZONE:}") String zone) {
        this.zone = zone;
        this.rules = rules;
        this.clock = clock;
        this.name = name;
        this.currency = currency;
        this.people = people;
        this.company = company;
        this.masterData = masterData;
        this.demoCompany = demoCompany;
        this.file = file;
        this.transactions = transactions;
        this.demo = demo;
        this.demoOrders = demoOrders;
        this.adminPassword = adminPassword;
    }

    @Override
    public int getPhase() {
        return 0;
    }

    @Override
    public boolean isRunning() {
        return done;
    }

    @Override
    public void stop() {
        done = false;
    }

    @Override
    public void start() {
        if (people.isEmpty()) {
            found();
        }
        done = true;
    }

    private void found() {
        company.found(
                demo ? "Skerrywick Chandlery" : name,
                demo ? "EUR" : currency,
                demo,
                zone.isBlank() ? ZoneId.systemDefault() : ZoneId.of(zone));
        masterData.foundSite("QUAY", demo ? "Quay store" : "Main store");
        if (demo) {
            masterData.foundSite("UPLAND", "Upland depot");
            company.onPaper("1 Chandlers' Quay", "SK1 1QA", "Skerrywick", "IE", "IE1234567FA", "NL91ABNA0417164300");
            file.begin();
            demoCompany.open(demoOrders);
            file.end();
            // all at once: whoever finds one user there finds them all
            transactions.executeWithoutResult(status -> {
                demoCompany
                        .users()
                        .forEach(user -> people.add(user.username(), user.displayName(), user.username(), user.role()));
                demoCompany.absences();
            });
        } else {
            var password = adminPassword.filter(given -> !given.isBlank()).orElseGet(Founding::generated);
            people.add("admin", "Administrator", password, Role.ADMIN);
            transactions.executeWithoutResult(status -> rules.publish(
                    new CommandContext(new Person("admin", Role.ADMIN), LocalDate.now(clock), "a new company"),
                    0,
                    CompanyRules.OF_A_NEW_COMPANY));
            if (adminPassword.isEmpty()) {
                System.out.println(
                        "The first administrator is admin with the password " + password + " (shown only now).");
            }
        }
    }

    private static String generated() {
        var bytes = new byte[12];
        new SecureRandom().nextBytes(bytes);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }
}
