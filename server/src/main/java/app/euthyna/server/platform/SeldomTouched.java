package app.euthyna.server.platform;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Component;

/**
 * Sessions that are written when something of them changes; that they were used, once a minute at most. Else every
 * question would write, and most of what it takes would be that. A session that nobody uses so ends up to a minute
 * earlier than was said.
 */
final class SeldomTouched<S extends Session> implements FindByIndexNameSessionRepository<SeldomTouched.Kept<S>> {

    static final Duration BETWEEN = Duration.ofMinutes(1);

    private final FindByIndexNameSessionRepository<S> sessions;

    private SeldomTouched(FindByIndexNameSessionRepository<S> sessions) {
        this.sessions = sessions;
    }

    /** In the place of those that are kept: what is made by itself is made only where there is no other. */
    @Component
    static class Instead implements BeanPostProcessor {
        @Override
        public Object postProcessAfterInitialization(Object bean, String name) {
            return bean instanceof FindByIndexNameSessionRepository<?> sessions ? new SeldomTouched<>(sessions) : bean;
        }
    }

    @Override
    public Kept<S> createSession() {
        var created = new Kept<>(sessions.createSession());
        created.isChanged = true;
        return created;
    }

    @Override
    public void save(Kept<S> session) {
        if (session.isChanged) {
            sessions.save(session.session);
            session.isChanged = false;
        }
    }

    @Override
    public Kept<S> findById(String id) {
        var found = sessions.findById(id);
        return found == null ? null : new Kept<>(found);
    }

    @Override
    public void deleteById(String id) {
        sessions.deleteById(id);
    }

    @Override
    public Map<String, Kept<S>> findByIndexNameAndIndexValue(String name, String value) {
        return sessions.findByIndexNameAndIndexValue(name, value).entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, found -> new Kept<>(found.getValue())));
    }

    /** A session that knows whether it has to be written. */
    static final class Kept<S extends Session> implements Session {

        private final S session;
        private boolean isChanged;

        private Kept(S session) {
            this.session = session;
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
