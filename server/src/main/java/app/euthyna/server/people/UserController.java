package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Users over HTTP. */
@RestController
@RequestMapping("/api/users")
class UserController {

    private final People people;
    private final Deputies deputies;
    private final Commands commands;

    UserController(People people, Deputies deputies, Commands commands) {
        this.deputies = deputies;
        this.people = people;
        this.commands = commands;
    }

    record NewUser(
            @NotBlank @Size(max = 60) String username,
            @NotBlank @Size(max = 120) String displayName,
            @NotNull Role role,
            @NotBlank @Size(min = 8, max = 70) String password) {}

    record UserView(String username, String displayName, Role role) {}

    /** Everybody who can sign in, for whoever wants to mention them. */
    @GetMapping
    List<UserView> users() {
        return people.all().stream()
                .map(u -> new UserView(u.username(), u.displayName(), u.role()))
                .toList();
    }

    record Away(@Size(max = 60) String deputy, LocalDate from, LocalDate until) {}

    record AbsenceView(List<Deputies.Absence> absences) {}

    /** Who is away or will be, and who stands in. */
    @GetMapping("/absences")
    AbsenceView absences() {
        return new AbsenceView(deputies.notOver(commands.context().date()));
    }

    /** Names a deputy for whoever is signed in; without one the absence is taken back. */
    @PutMapping("/me/absence")
    AbsenceView away(@Valid @RequestBody Away request, HttpServletRequest http) {
        return commands.run(http, request, AbsenceView.class, context -> {
            deputies.away(context.person().username(), request.deputy(), request.from(), request.until());
            return absences();
        });
    }

    @Permissions.KeepUsers
    @PostMapping
    UserView add(@Valid @RequestBody NewUser request, HttpServletRequest http) {
        return commands.run(http, request, UserView.class, context -> {
            if (people.exists(request.username())) {
                throw new RefusedException(CommonRefusal.Incomplete.of("username", "an unused user name"));
            }
            people.add(request.username(), request.displayName(), request.password(), request.role());
            return new UserView(request.username(), request.displayName(), request.role());
        });
    }
}
