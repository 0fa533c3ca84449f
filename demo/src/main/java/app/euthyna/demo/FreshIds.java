package app.euthyna.demo;

import jakarta.persistence.EntityManagerFactory;
import org.hibernate.engine.spi.SessionFactoryImplementor;
import org.hibernate.engine.spi.SharedSessionContractImplementor;
import org.hibernate.generator.BeforeExecutionGenerator;
import org.hibernate.generator.EventType;
import org.hibernate.id.enhanced.SequenceStyleGenerator;
import org.springframework.stereotype.Component;

/**
 * The application takes ids by the block, so after rows came to be behind its back it has lower ones in hand. They are
 * let go: what is entered next comes after all that is there.
 */
@Component
class FreshIds {

    private final SessionFactoryImplementor sessions;

    FreshIds(EntityManagerFactory factory) {
        this.sessions = factory.unwrap(SessionFactoryImplementor.class);
    }

    /** The question for the next value of a sequence. */
    String nextOf(String sequence) {
        return sessions.getJdbcServices().getDialect().getSequenceSupport().getSequenceNextValString(sequence);
    }

    /** Has every table's next id be above this one; their sequence is already. */
    void above(long last) {
        try (var session = (SharedSessionContractImplementor) sessions.openStatelessSession()) {
            sessions.getMappingMetamodel().forEachEntityDescriptor(entity -> {
                if (entity.getGenerator() instanceof SequenceStyleGenerator generator && isByTheBlock(generator)) {
                    takeUntilAbove(last, generator, session);
                }
            });
        }
    }

    private static boolean isByTheBlock(SequenceStyleGenerator generator) {
        return generator.getOptimizer().getIncrementSize() > 1;
    }

    private static void takeUntilAbove(
            long last, BeforeExecutionGenerator generator, SharedSessionContractImplementor session) {
        var next = 0L;
        while (next <= last) {
            next = (Long) generator.generate(session, null, null, EventType.INSERT);
        }
    }
}
