package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Users over HTTP. */
@RestController
@RequestMapping("/api/users")
class UserController {

    private final People people;
    private final Commands commands;

    UserController(People people, Commands commands) {
        this.people = people;
        this.commands = commands;
    }

    record NewUser(@NotBlank @Size(max = 60) String username, @NotBlank @Size(max = 120) String displayName, @NotNull Role role,
            @NotBlank @Size(min = 8, max = 70) String password) {
    }

    record UserView(String username, String displayName, Role role) {
    }

    @May.KeepUsers
    @PostMapping
    UserView add(@Valid @RequestBody NewUser request, HttpServletRequest http) {
        return commands.run(http, request, UserView.class, context -> {
            if (people.exists(request.username())) {
                throw new RefusedException(CommonRefusal.Incomplete.of("username", "a name that nobody has yet"));
            }
            people.add(request.username(), request.displayName(), request.password(), request.role());
            return new UserView(request.username(), request.displayName(), request.role());
        });
    }
}
