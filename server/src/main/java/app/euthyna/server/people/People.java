package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Many;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Users and their passwords, kept as BCrypt hashes. */
@Service
public class People implements UserDetailsService {

    private final PeopleQueries queries;
    private final PasswordEncoder passwords;

    People(PeopleQueries queries, PasswordEncoder passwords) {
        this.queries = queries;
        this.passwords = passwords;
    }

    @Override
    @Transactional(readOnly = true)
    public UserDetails loadUserByUsername(String username) {
        var user = find(username).orElseThrow(() -> new UsernameNotFoundException("no user " + username));
        return User.withUsername(user.username)
                .password(user.passwordHash)
                .roles(user.role.name())
                .disabled(!user.enabled)
                .build();
    }

    @Transactional(readOnly = true)
    public boolean isEmpty() {
        return queries.count() == 0;
    }

    @Transactional(readOnly = true)
    public boolean exists(String username) {
        return find(username).isPresent();
    }

    @Transactional
    public void add(String username, String displayName, String password, Role role) {
        var user = new UserEntity();
        user.username = username;
        user.displayName = displayName;
        user.passwordHash = passwords.encode(password);
        user.role = role;
        user.enabled = true;
        queries.session().insert(user);
    }

    /** Somebody who can sign in. */
    public record Colleague(String username, String displayName, Role role) {}

    @Transactional(readOnly = true)
    public List<Colleague> all() {
        return queries.enabled().stream()
                .map(u -> new Colleague(u.username, u.displayName, u.role))
                .toList();
    }

    @Transactional(readOnly = true)
    public String displayName(String username) {
        return find(username).map(user -> user.displayName).orElse(username);
    }

    /** The roles that these people have now. */
    @Transactional(readOnly = true)
    public Set<Role> rolesOf(Set<String> usernames) {
        return Set.copyOf(queries.rolesOf(Many.names(usernames)));
    }

    private Optional<UserEntity> find(String username) {
        return queries.user(username);
    }
}
