package app.euthyna.server.founding;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import java.security.SecureRandom;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Base64;
import java.util.Currency;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** An empty company with its first administrator. */
@Component
@Order(Ordered.LOWEST_PRECEDENCE)
@EnableConfigurationProperties(NewCompany.Given.class)
class NewCompany implements Founder {

    /**
     * What a new company is told at its first start.
     *
     * @param administratorPassword made up and shown once where it is blank
     * @param timeZone the machine's where it is blank
     */
    @ConfigurationProperties("euthyna.new-company")
    record Given(
            @DefaultValue("") String administratorPassword,
            @DefaultValue("New company") String name,
            @DefaultValue("EUR") Currency currency,
            @DefaultValue("") String timeZone) {

        ZoneId zone() {
            return timeZone.isBlank() ? ZoneId.systemDefault() : ZoneId.of(timeZone);
        }
    }

    private final Given given;
    private final Company company;
    private final MasterData masterData;
    private final People people;
    private final CompanyRulesStore rules;
    private final TransactionTemplate transactions;

    NewCompany(
            Given given,
            Company company,
            MasterData masterData,
            People people,
            CompanyRulesStore rules,
            TransactionTemplate transactions) {
        this.given = given;
        this.company = company;
        this.masterData = masterData;
        this.people = people;
        this.rules = rules;
        this.transactions = transactions;
    }

    @Override
    public void found() {
        company.found(given.name(), given.currency().getCurrencyCode(), false, given.zone());
        masterData.foundSite("QUAY", "Main store");
        var generated = given.administratorPassword().isBlank();
        var password = generated ? generated() : given.administratorPassword();
        people.add("admin", "Administrator", password, Role.ADMIN);
        transactions.executeWithoutResult(status -> rules.publish(
                new CommandContext(new Person("admin", Role.ADMIN), LocalDate.now(given.zone()), "a new company"),
                0,
                CompanyRules.OF_A_NEW_COMPANY));
        if (generated) {
            System.out.println("The first administrator is admin with the password " + password + " (shown only now).");
        }
    }

    private static String generated() {
        var bytes = new byte[12];
        new SecureRandom().nextBytes(bytes);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }
}
