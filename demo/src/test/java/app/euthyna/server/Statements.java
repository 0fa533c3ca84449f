package app.euthyna.server;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.AppenderBase;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.hibernate.resource.jdbc.spi.StatementInspector;
import org.slf4j.LoggerFactory;
import org.springframework.boot.hibernate.autoconfigure.HibernatePropertiesCustomizer;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.jdbc.core.JdbcTemplate;

/** Hears every statement that Hibernate sends from the thread of a test. */
@TestConfiguration
public class Statements {

    private static final ThreadLocal<List<String>> HEARD = new ThreadLocal<>();
    private static final ThreadLocal<Set<String>> NATIVE = new ThreadLocal<>();
    private static final Pattern LOGGED =
            Pattern.compile("Executing (?:prepared )?SQL (?:\\w+ )?\\[(.*)]", Pattern.DOTALL);

    @Bean
    HibernatePropertiesCustomizer statementsAreHeard() {
        StatementInspector hear = sql -> {
            if (HEARD.get() != null) {
                HEARD.get().add(sql);
            }
            if (NATIVE.get() != null && isNative()) {
                NATIVE.get().add(sql);
            }
            return sql;
        };
        return properties -> properties.put("hibernate.session_factory.statement_inspector", hear);
    }

    /** The statements sent while something is done. */
    static List<String> of(Runnable done) {
        var heard = new ArrayList<String>();
        HEARD.set(heard);
        try {
            done.run();
        } finally {
            HEARD.remove();
        }
        return heard;
    }

    private static boolean isNative() {
        return StackWalker.getInstance()
                .walk(frames -> frames.anyMatch(frame -> frame.getClassName().startsWith("org.hibernate.query.sql.")));
    }

    /** The different statements in SQL that are sent while something is done, through Hibernate or beside it. */
    static Set<String> nativeOf(Runnable done) {
        var sent = new TreeSet<String>();
        var logger = (Logger) LoggerFactory.getLogger(JdbcTemplate.class);
        var level = logger.getLevel();
        var here = Thread.currentThread().getName();
        var logged = new AppenderBase<ILoggingEvent>() {
            @Override
            protected void append(ILoggingEvent event) {
                var sql = LOGGED.matcher(event.getFormattedMessage());
                // sessions of browsers are not kept by this project
                if (event.getThreadName().equals(here)
                        && sql.find()
                        && !sql.group(1).contains("SPRING_SESSION")) {
                    sent.add(sql.group(1).replaceAll("\\s+", " "));
                }
            }
        };
        logged.start();
        logger.addAppender(logged);
        logger.setLevel(Level.DEBUG);
        logger.setAdditive(false);
        NATIVE.set(sent);
        try {
            done.run();
        } finally {
            NATIVE.remove();
            logger.detachAppender(logged);
            logger.setLevel(level);
            logger.setAdditive(true);
        }
        return sent;
    }
}
