package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface PeopleQueries {
    StatelessSession session();

    record NotOverRow(String ofUser, String deputy, LocalDate awayFrom, LocalDate awayUntil) {}

    @HQL("""
            select d.ofUser, d.deputy, d.awayFrom, d.awayUntil
            from DeputyEntity d
            where d.awayUntil >= :awayUntil
            order by d.awayFrom, d.ofUser
            """)
    List<NotOverRow> notOver(LocalDate awayUntil);

    @HQL("""
            select d.deputy
            from DeputyEntity d
            where d.ofUser = :ofUser and :on between d.awayFrom and d.awayUntil
            """)
    Optional<String> deputyOf(String ofUser, LocalDate on);

    @HQL("delete from DeputyEntity d where d.ofUser = :ofUser")
    int removeAbsence(String ofUser);

    @HQL("select au.role from UserEntity au where au.username = :username and au.enabled = true")
    Optional<Role> roleOf(String username);

    @HQL("""
            select count(*)
            from SignInEntity si
            where si.username = :username and si.address = :address and si.outcome = 'WRONG'
            and si.at > :at and si.id > coalesce((select max(s.id) from SignInEntity s where s.username = :username
                and s.address = :address and s.outcome = 'SIGNED_IN'), 0)
            """)
    long failuresHere(String username, String address, Instant at);

    record UserRow(String username, String displayName, Role role, boolean enabled, Instant since, Instant lastSeen) {}

    @HQL("""
            select distinct x.customerId
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.reviewable = true and o.author = :author
            """)
    List<Long> customersWaitingFor(String author);

    @HQL("select au.passwordHash from UserEntity au where au.username = :username")
    Optional<String> passwordHash(String username);

    /** Of a user {@code u} the moment since which they have their role. */
    String ROLE_SINCE = """
            (select max(c.at) from UserChangeEntity c where c.username = u.username
                and (c.what like 'created as %' or c.what like 'is now %'))""";

    /** Of a user {@code u} the moment in which they signed in last. */
    String LAST_SEEN = """
            (select max(s.at) from SignInEntity s where s.username = u.username and s.outcome = 'SIGNED_IN')""";

    @HQL("select u.username, u.displayName, u.role, u.enabled, " + ROLE_SINCE + ", " + LAST_SEEN
            + " from UserEntity u order by u.username")
    List<UserRow> users();

    @HQL("""
            select distinct u.role
            from DeputyEntity d
            join UserEntity u on u.username = d.ofUser
            where d.deputy = :deputy and :on between d.awayFrom and d.awayUntil and u.enabled = true
            """)
    List<Role> rolesFor(String deputy, LocalDate on);

    @HQL("select count(*) from SignInEntity s where s.username = :username and s.outcome = 'WRONG' and s.at > :since")
    long failuresOf(String username, Instant since);

    @HQL("select count(*) from SignInEntity s where s.address = :address and s.outcome = 'WRONG' and s.at > :since")
    long failuresFrom(String address, Instant since);

    @HQL("select u from UserEntity u where u.username = :username")
    Optional<UserEntity> user(String username);

    @HQL("select u from UserEntity u where u.enabled = true order by u.username")
    List<UserEntity> enabled();

    @HQL("select count(*) from UserEntity u")
    long count();

    @HQL("select distinct u.role from UserEntity u where :names contains u.username")
    List<Role> rolesOf(String[] names);
}
