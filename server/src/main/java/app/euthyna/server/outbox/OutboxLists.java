package app.euthyna.server.outbox;

import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The list of mails. */
@Configuration(proxyBeanMethods = false)
class OutboxLists {

    @Bean
    static DeclaredList mailsList() {
        return new DeclaredList(
                        "mails",
                        "Outbox",
                        "mail",
                        "mails",
                        "OutboxMessageEntity m",
                        "m.id",
                        List.of(),
                        Reading.ALL,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "About", "m.aboutNumber", "ORDER")
                                        .with(Trait.SHOWN),
                                Column.text("to", "To", "m.recipient").with(Trait.SHOWN, Trait.GROUPED),
                                Column.text("subject", "Subject", "m.subject").with(Trait.SHOWN),
                                Column.text("by", "By", "m.byUser").with(Trait.SHOWN, Trait.GROUPED),
                                Column.moment("at", "Written", "m.at").with(Trait.SHOWN),
                                Column.text("file", "File", "m.attachmentName"),
                                Column.flag("mine", "To me", "m.recipient = :me")
                                        .through("", "m.recipient = :me")))
                .opening("m.aboutKind")
                .own(Outbox.READ_THEIR_OWN, OutboxQueries.OWN)
                .shipping(Shipped.of("to-me", "To me", "", "mine:any:YES"));
    }
}
