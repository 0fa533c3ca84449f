package app.euthyna.server.check;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.outbox.Outbox;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Notes on orders. A colleague who is mentioned, {@code @controller2}, is told. */
@RestController
@RequestMapping("/api/orders/{number}/notes")
class NoteController {

    private static final Pattern MENTION = Pattern.compile("(?<![\\w.])@([A-Za-z0-9._-]*[A-Za-z0-9])");

    private final OrderService orders;
    private final People people;
    private final Outbox outbox;
    private final History history;
    private final Commands commands;

    NoteController(OrderService orders, People people, Outbox outbox, History history, Commands commands) {
        this.orders = orders;
        this.people = people;
        this.outbox = outbox;
        this.history = history;
        this.commands = commands;
    }

    record Note(@NotBlank @Size(max = 2000) String text) {}

    record Noted(List<String> told) {}

    @Permissions.Propose
    @PostMapping
    Noted note(@PathVariable String number, @Valid @RequestBody Note request, HttpServletRequest http) {
        return commands.run(http, request, Noted.class, context -> {
            var order = orders.view(number);
            var mentioned = new TreeSet<String>();
            var mention = MENTION.matcher(request.text());
            while (mention.find()) {
                if (!people.exists(mention.group(1))) {
                    throw new RefusedException(CommonRefusal.Incomplete.of(
                            "text", "only users after an @; there is no user " + mention.group(1)));
                }
                mentioned.add(mention.group(1));
            }
            history.note(context, number, "note", "noted: " + request.text().strip());
            mentioned.forEach(to -> outbox.send(
                    context.person().username(),
                    to,
                    "You are mentioned on order " + number + ", " + order.customerName(),
                    request.text().strip(),
                    "ORDER",
                    number));
            return new Noted(List.copyOf(mentioned));
        });
    }
}
