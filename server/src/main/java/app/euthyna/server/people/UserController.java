package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
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
    private final UserKeeping keeping;

    UserController(People people, Deputies deputies, Commands commands, UserKeeping keeping) {
        this.keeping = keeping;
        this.deputies = deputies;
        this.people = people;
        this.commands = commands;
    }

    record NewUser(
            @NotBlank @Size(max = 60) String username,
            @NotBlank @Size(max = 120) String displayName,
            @NotNull Role role,
            @NotBlank @Size(max = 200) String password) {}

    record UserView(
            String username,
            String displayName,
            @Nullable @ReadBy(ReadBy.Group.ACCESS) Role role) {}

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
        // what is kept of the request says nothing of the password
        var asked = List.of(request.username(), request.displayName(), request.role());
        return commands.run(http, asked, UserView.class, context -> {
            keeping.add(context, request.username(), request.displayName(), request.password(), request.role());
            return new UserView(request.username(), request.displayName(), request.role());
        });
    }

    record NewRole(@NotNull Role role) {}

    record SwitchedOn(boolean enabled) {}

    record NewPassword(@NotBlank @Size(max = 200) String password) {}

    record ChangedPassword(
            @NotBlank @Size(max = 200) String current,
            @NotBlank @Size(max = 200) String next) {}

    record ChangedUser(String username) {}

    @Permissions.KeepUsers
    @PutMapping("/{username}/role")
    ChangedUser setRole(@PathVariable String username, @Valid @RequestBody NewRole request, HttpServletRequest http) {
        return commands.run(http, request, ChangedUser.class, context -> {
            keeping.setRole(context, username, request.role());
            return new ChangedUser(username);
        });
    }

    @Permissions.KeepUsers
    @PutMapping("/{username}/enabled")
    ChangedUser setEnabled(
            @PathVariable String username, @Valid @RequestBody SwitchedOn request, HttpServletRequest http) {
        return commands.run(http, request, ChangedUser.class, context -> {
            keeping.setEnabled(context, username, request.enabled());
            return new ChangedUser(username);
        });
    }

    @Permissions.KeepUsers
    @PutMapping("/{username}/password")
    ChangedUser setPassword(
            @PathVariable String username, @Valid @RequestBody NewPassword request, HttpServletRequest http) {
        return commands.run(http, List.of(username), ChangedUser.class, context -> {
            keeping.setPassword(context, username, request.password());
            return new ChangedUser(username);
        });
    }

    /** Whoever is signed in changes their own password. */
    @Permissions.Read
    @PutMapping("/me/password")
    ChangedUser changePassword(@Valid @RequestBody ChangedPassword request, HttpServletRequest http) {
        return commands.run(http, List.of("own password"), ChangedUser.class, context -> {
            keeping.changePassword(context, request.current(), request.next());
            return new ChangedUser(context.person().username());
        });
    }

    /** Who may what, and when they were last seen. */
    @GetMapping("/access")
    List<UserKeeping.AccessView> access() {
        return keeping.access(commands.context());
    }
}
