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
                        "OutboxMessageEntity x",
                        "x.id",
                        List.of(),
                        Reading.ALL,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "About", "x.aboutNumber", "ORDER")
                                        .with(Trait.SHOWN),
                                Column.text("to", "To", "x.recipient").with(Trait.SHOWN, Trait.GROUPED),
                                Column.text("subject", "Subject", "x.subject").with(Trait.SHOWN),
                                Column.text("by", "By", "x.byUser").with(Trait.SHOWN, Trait.GROUPED),
                                Column.moment("at", "Written", "x.at").with(Trait.SHOWN),
                                Column.text("file", "File", "x.attachmentName"),
                                Column.flag("mine", "To me", "x.recipient = :me")
                                        .through("", "x.recipient = :me")))
                .opening("x.aboutKind")
                .own(Outbox.READ_THEIR_OWN, "x.recipient = :me or x.byUser = :me")
                .shipping(Shipped.of("to-me", "To me", "", "mine:any:YES"));
    }
}
