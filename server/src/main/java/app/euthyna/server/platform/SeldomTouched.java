package app.euthyna.server.platform;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.stereotype.Component;

/**
 * Sessions that are written when something of them changes; that they were used, once a minute at most. Else every
 * question would write, and most of what it takes would be that. A session that nobody uses so ends up to a minute
 * earlier than was said.
 */
final class SeldomTouched implements FindByIndexNameSessionRepository<SeldomTouched.Kept<?>> {

    static final Duration BETWEEN = Duration.ofMinutes(1);

    private final FindByIndexNameSessionRepository<? extends Session> kept;

    private SeldomTouched(FindByIndexNameSessionRepository<? extends Session> kept) {
        this.kept = kept;
    }

    /** In the place of those that are kept: what is made by itself is made only where there is no other. */
    @Component
    static class Instead implements BeanPostProcessor {
        @Override
        public Object postProcessAfterInitialization(Object bean, String name) {
            return bean instanceof JdbcIndexedSessionRepository sessions ? new SeldomTouched(sessions) : bean;
        }
    }

    @Override
    public Kept<?> createSession() {
        return created(kept);
    }

    private static <S extends Session> Kept<S> created(FindByIndexNameSessionRepository<S> sessions) {
        var created = new Kept<>(sessions, sessions.createSession());
        created.isChanged = true;
        return created;
    }

    @Override
    public void save(Kept<?> session) {
        session.save();
    }

    @Override
    public Kept<?> findById(String id) {
        return found(kept, id);
    }

    private static <S extends Session> Kept<S> found(FindByIndexNameSessionRepository<S> sessions, String id) {
        var found = sessions.findById(id);
        return found == null ? null : new Kept<>(sessions, found);
    }

    @Override
    public void deleteById(String id) {
        kept.deleteById(id);
    }

    @Override
    public Map<String, Kept<?>> findByIndexNameAndIndexValue(String name, String value) {
        return indexed(kept, name, value);
    }

    private static <S extends Session> Map<String, Kept<?>> indexed(
            FindByIndexNameSessionRepository<S> sessions, String name, String value) {
        return sessions.findByIndexNameAndIndexValue(name, value).entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, found -> new Kept<>(sessions, found.getValue())));
    }

    /** A session that knows whether it has to be written. */
    static final class Kept<S extends Session> implements Session {

        private final FindByIndexNameSessionRepository<S> sessions;
        private final S session;
        private boolean isChanged;

        Kept(FindByIndexNameSessionRepository<S> sessions, S session) {
            this.sessions = sessions;
            this.session = session;
        }

        private void save() {
            if (isChanged) {
                sessions.save(session);
                isChanged = false;
            }
        }

        @Override
        public void setLastAccessedTime(Instant now) {
            if (!now.isBefore(session.getLastAccessedTime().plus(BETWEEN))) {
                session.setLastAccessedTime(now);
                isChanged = true;
            }
        }

        @Override
        public Instant getLastAccessedTime() {
            return session.getLastAccessedTime();
        }

        @Override
        public String getId() {
            return session.getId();
        }

        @Override
        public String changeSessionId() {
            isChanged = true;
            return session.changeSessionId();
        }

        @Override
        @SuppressWarnings("TypeParameterUnusedInFormals") // so it is in the interface
        public <T> T getAttribute(String name) {
            return session.getAttribute(name);
        }

        @Override
        public Set<String> getAttributeNames() {
            return session.getAttributeNames();
        }

        @Override
        public void setAttribute(String name, Object value) {
            isChanged = true;
            session.setAttribute(name, value);
        }

        @Override
        public void removeAttribute(String name) {
            isChanged = true;
            session.removeAttribute(name);
        }

        @Override
        public Instant getCreationTime() {
            return session.getCreationTime();
        }

        @Override
        public void setMaxInactiveInterval(Duration interval) {
            isChanged = true;
            session.setMaxInactiveInterval(interval);
        }

        @Override
        public Duration getMaxInactiveInterval() {
            return session.getMaxInactiveInterval();
        }

        @Override
        public boolean isExpired() {
            return session.isExpired();
        }
    }
}
