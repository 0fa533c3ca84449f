package app.euthyna.server.platform;

import app.euthyna.core.shared.Role;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface PlatformQueries {
    StatelessSession session();

    @HQL("select max(pc.through) from PeriodClosingEntity pc where pc.reopenedAt is null")
    LocalDate through();

    @HQL("""
            select cl.requestHash, cl.response
            from CommandLogEntity cl
            where cl.username = :username and cl.idempotencyKey = :idempotencyKey
            """)
    Optional<Commands.Answered> answered(String username, String idempotencyKey);

    @HQL("""
            update CommandLogEntity cl
            set cl.response = :response
            where cl.username = :username and cl.idempotencyKey = :idempotencyKey
            """)
    int answer(String response, String username, String idempotencyKey);

    @HQL("delete from CommandLogEntity cl where cl.at < :at")
    int forgetOldAnswers(Instant at);

    @HQL("""
            select u.role
            from DeputyEntity d
            join UserEntity u on u.username = d.ofUser
            where d.deputy = :deputy and d.awayUntil >= :awayUntil and d.awayFrom <= :awayUntil
            and u.enabled = true
            """)
    List<Role> standsInFor(String deputy, LocalDate awayUntil);

    record FactsRow(String name, String currency, boolean demo, String timeZone) {}

    @HQL("select c.name, c.currency, c.demo, c.timeZone from CompanyEntity c where c.id = 1")
    FactsRow facts();

    @HQL("""
            update CompanyEntity c
            set c.street = :street, c.postcode = :postcode, c.town = :town, c.country = :country, c.vatId = :vatId,
                c.iban = :iban
            where c.id = 1
            """)
    int onPaper(String street, String postcode, String town, String country, String vatId, String iban);

    @HQL("select count(*) from CompanyEntity c")
    Long isFounded();
}
