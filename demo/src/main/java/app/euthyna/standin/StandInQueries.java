package app.euthyna.standin;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What the stand-ins were told. */
@Transactional
interface StandInQueries {
    StatelessSession session();

    @HQL("select sc.answers from SimulatedCarrierEntity sc where sc.id = 1")
    boolean carrierAnswers();

    @HQL("update SimulatedCarrierEntity sc set sc.answers = :answers where sc.id = 1")
    int letCarrierAnswer(boolean answers);

    @HQL("""
            select sr.validTo, sr.answers
            from SimulatedRegisterEntity sr
            where sr.licenceClass = :licenceClass and sr.number = :number
            """)
    Optional<RegisteredRow> registered(String licenceClass, String number);

    record RegisteredRow(LocalDate validTo, boolean answers) {}

    record PaidOutRow(Long count, BigDecimal amount) {}

    @HQL("select sp.answer from SimulatedPayoutEntity sp where sp.payoutKey = :payoutKey")
    Optional<String> paid(String payoutKey);

    @HQL("select sps.behaviour from SimulatedPaymentServiceEntity sps where sps.id = 1")
    String behaviour();

    @HQL("select count(*), coalesce(sum(sp.amount), 0) from SimulatedPayoutEntity sp where sp.answer = 'PAID'")
    PaidOutRow paidOut();

    @HQL("update SimulatedPaymentServiceEntity sps set sps.behaviour = :behaviour where sps.id = 1")
    int behave(String behaviour);
}
