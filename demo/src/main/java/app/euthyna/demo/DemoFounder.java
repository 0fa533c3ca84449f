package app.euthyna.demo;

import app.euthyna.server.founding.Founder;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Company;
import java.time.ZoneId;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Sets up the demo company with its story, and users whose names are their passwords. */
@Component
@Order(0)
class DemoFounder implements Founder {

    private final Company company;
    private final MasterData masterData;
    private final People people;
    private final DemoCompany story;
    private final FoundingFile file;
    private final TransactionTemplate transactions;

    @Value("${euthyna.demo-orders}")
    private int orders;

    @Value("${euthyna.new-company.time-zone:}")
    private String zone;

    DemoFounder(
            Company company,
            MasterData masterData,
            People people,
            DemoCompany story,
            FoundingFile file,
            TransactionTemplate transactions) {
        this.company = company;
        this.masterData = masterData;
        this.people = people;
        this.story = story;
        this.file = file;
        this.transactions = transactions;
    }

    @Override
    public void found() {
        company.found("Skerrywick Chandlery", "EUR", true, zone.isBlank() ? ZoneId.systemDefault() : ZoneId.of(zone));
        masterData.foundSite("QUAY", "Quay store");
        masterData.foundSite("UPLAND", "Upland depot");
        company.onPaper("1 Chandlers' Quay", "SK1 1QA", "Skerrywick", "IE", "IE1234567FA", "NL91ABNA0417164300");
        file.begin();
        story.open(orders);
        file.end();
        // all at once: whoever finds one user there finds them all
        transactions.executeWithoutResult(status -> {
            story.users()
                    .forEach(user -> people.add(user.username(), user.displayName(), user.username(), user.role()));
            story.absences();
        });
    }
}
