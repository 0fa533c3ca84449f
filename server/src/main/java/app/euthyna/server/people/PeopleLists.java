package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of users, and of what was changed about their access. */
@Configuration(proxyBeanMethods = false)
class PeopleLists {

    @Bean
    static DeclaredList usersList() {
        return new DeclaredList(
                "users",
                "Users and access",
                "user",
                "users",
                "UserEntity u",
                "u.id",
                List.of(),
                Reading.ACCESS,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.text("user", "User", "u.username").with(Trait.SHOWN),
                        Column.text("name", "Name", "u.displayName").with(Trait.SHOWN),
                        Column.choice("role", "Role", "u.role", Role.class).with(Trait.SHOWN),
                        Column.flag("enabled", "May sign in", "u.enabled = true")
                                .with(Trait.SHOWN),
                        Column.moment("since", "Role since", PeopleQueries.ROLE_SINCE)
                                .with(Trait.SHOWN),
                        Column.moment("lastSeen", "Last signed in", PeopleQueries.LAST_SEEN)
                                .with(Trait.SHOWN)));
    }

    @Bean
    static DeclaredList accessChangesList() {
        return new DeclaredList(
                "access-changes",
                "Changes of access",
                "change",
                "changes",
                "UserChangeEntity x",
                "x.id",
                List.of(),
                Reading.ACCESS,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.text("user", "User", "x.username").with(Trait.SHOWN, Trait.GROUPED),
                        Column.text("what", "What", "x.what").with(Trait.SHOWN),
                        Column.text("by", "By", "x.changedBy").with(Trait.SHOWN, Trait.GROUPED),
                        Column.moment("at", "When", "x.at").with(Trait.SHOWN)));
    }

    @Bean
    static DeclaredList signInsList() {
        return new DeclaredList(
                        "sign-ins",
                        "Sign-ins",
                        "try",
                        "tries",
                        "SignInEntity x",
                        "x.id",
                        List.of(),
                        Reading.ACCESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.moment("at", "When", "x.at").with(Trait.SHOWN),
                                Column.text("user", "User", "x.username").with(Trait.SHOWN, Trait.GROUPED),
                                Column.words(
                                                "outcome",
                                                "Outcome",
                                                """
                                                case x.outcome when 'WRONG' then 'WRONG_PASSWORD'
                                                    when 'THROTTLED' then 'TOO_MANY_TRIES' else x.outcome end""",
                                                "SIGNED_IN",
                                                "WRONG_PASSWORD",
                                                "TOO_MANY_TRIES",
                                                "SWITCHED_OFF")
                                        .with(Trait.SHOWN),
                                Column.text("from", "From", "x.address").with(Trait.SHOWN, Trait.GROUPED)))
                .shipping(Shipped.of("refused", "Refused sign-ins", "user:count", "outcome:none:SIGNED_IN"));
    }
}
