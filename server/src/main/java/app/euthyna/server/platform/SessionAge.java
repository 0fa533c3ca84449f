package app.euthyna.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import org.springframework.web.filter.OncePerRequestFilter;

/** Ends a session after a working day, however busy it was; one that nobody uses ends earlier by itself. */
class SessionAge extends OncePerRequestFilter {

    static final Duration LONGEST = Duration.ofHours(12);

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        var session = request.getSession(false);
        if (session != null && System.currentTimeMillis() - session.getCreationTime() > LONGEST.toMillis()) {
            session.invalidate();
        }
        chain.doFilter(request, response);
    }
}
