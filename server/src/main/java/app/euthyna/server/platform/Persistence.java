package app.euthyna.server.platform;

import jakarta.persistence.EntityManagerFactory;
import java.lang.reflect.Method;
import org.hibernate.SessionFactory;
import org.hibernate.StatelessSession;
import org.hibernate.dialect.Dialect;
import org.hibernate.engine.spi.SessionFactoryImplementor;
import org.springframework.aop.support.DefaultPointcutAdvisor;
import org.springframework.aop.support.StaticMethodMatcherPointcut;
import org.springframework.beans.factory.BeanFactory;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Role;
import org.springframework.orm.jpa.hibernate.SharedSessionCreator;
import org.springframework.transaction.TransactionManager;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.interceptor.DefaultTransactionAttribute;
import org.springframework.transaction.interceptor.MatchAlwaysTransactionAttributeSource;
import org.springframework.transaction.interceptor.TransactionInterceptor;
import org.springframework.web.bind.annotation.GetMapping;

/**
 * How the database is reached: through the stateless session of the transaction. What is inserted or updated is there
 * at once, for every question after it; nothing is kept beside the database, and nothing is loaded unasked.
 */
@Configuration(proxyBeanMethods = false)
class Persistence {

    /** The session of whatever transaction runs. */
    @Bean
    static StatelessSession session(EntityManagerFactory factory) {
        IsAnyOf.install(factory.unwrap(SessionFactoryImplementor.class));
        return SharedSessionCreator.createSharedStatelessSession(factory.unwrap(SessionFactory.class));
    }

    /** How the database says what is not the same everywhere: locks, sequences. */
    @Bean
    static Dialect dialect(EntityManagerFactory factory) {
        return factory.unwrap(SessionFactoryImplementor.class).getJdbcServices().getDialect();
    }

    /** A question over HTTP is answered from one read-only transaction, however many tables it asks. */
    @Bean
    @Role(BeanDefinition.ROLE_INFRASTRUCTURE)
    static DefaultPointcutAdvisor questionsInOneTransaction(BeanFactory beans) {
        var readOnly = new DefaultTransactionAttribute();
        readOnly.setReadOnly(true);
        var always = new MatchAlwaysTransactionAttributeSource();
        always.setTransactionAttribute(readOnly);
        var interceptor = new TransactionInterceptor();
        interceptor.setTransactionAttributeSource(always);
        // asked for the manager when it is needed: the database is not there yet while others are being proxied
        interceptor.setBeanFactory(beans);
        return new DefaultPointcutAdvisor(new Questions(), interceptor);
    }

    /**
     * There is one manager of transactions: unless told so, Spring looks through the annotations of a class at every
     * call for the name of another.
     */
    @Bean
    static SmartInitializingSingleton oneManager(TransactionInterceptor interceptor, TransactionManager manager) {
        return () -> {
            interceptor.setTransactionManager(manager);
            interceptor.setBeanFactory(null);
        };
    }

    /** What is asked with GET, unless it says itself in what transaction. */
    private static final class Questions extends StaticMethodMatcherPointcut {
        @Override
        public boolean matches(Method method, Class<?> type) {
            return method.isAnnotationPresent(GetMapping.class) && !method.isAnnotationPresent(Transactional.class);
        }
    }
}
