package app.euthyna.server.lists;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What is asked of a list again and again, kept under names: one's own, and those that somebody keeps for all. */
@RestController
@RequestMapping("/api/lists/{list}")
class ViewController {

    private final ViewQueries queries;
    private final Lists lists;
    private final Commands commands;

    ViewController(ViewQueries queries, Lists lists, Commands commands) {
        this.queries = queries;
        this.lists = lists;
        this.commands = commands;
    }

    /**
     * A view.
     *
     * @param key as it is written in addresses
     * @param owner who keeps it; empty where it ships with the application
     * @param isForAll whether everybody who reads the list is offered it
     * @param isMine whether whoever asks may change it
     * @param isStandard whether whoever asks sees it first
     * @param version to be told when it is changed; null for what ships
     */
    record SavedView(
            String key,
            String name,
            String owner,
            boolean isForAll,
            boolean isMine,
            boolean isStandard,
            List<String> filter,
            String sort,
            List<String> columns,
            String chart,
            @Nullable Long version) {}

    /**
     * What is to be kept.
     *
     * @param sort a column, with a minus before it for the other way round; empty for the list's own
     * @param columns in their sequence; none for those that are shown by themselves
     * @param chart field:measure; empty for rows
     */
    record ViewIn(
            @NotBlank @Size(max = 80) String name,
            boolean forAll,
            @NotNull @Size(max = 20) List<@NotNull @Size(max = 200) String> filter,
            @NotNull String sort,
            @NotNull @Size(max = 40) List<@NotNull String> columns,
            @NotNull String chart) {}

    /** The same for a view that is there. */
    record ViewChange(@NotNull Long version, @NotNull @Valid ViewIn view) {}

    /** The view that is seen first; empty for none. */
    record StandardIn(@NotNull @Size(max = 60) String key) {}

    /** What whoever asks may open: their own views, everybody's, and those that ship. */
    @GetMapping("/views")
    List<SavedView> views(@PathVariable String list) {
        return views(lists.readable(list), commands.context());
    }

    private List<SavedView> views(DeclaredList list, CommandContext context) {
        var me = context.person().username();
        var standard = queries.standard(me, list.name()).orElse("");
        return Stream.concat(
                        list.viewsToRead().stream().map(one -> view(one, standard)),
                        queries.readBy(list.name(), me).stream()
                                .filter(row -> list.answers(filters(row), row.sort, columns(row), row.chart))
                                .map(row -> view(row, context, standard)))
                .toList();
    }

    private static SavedView view(DeclaredList.Shipped one, String standard) {
        return new SavedView(
                one.key(),
                one.name(),
                "",
                true,
                false,
                one.key().equals(standard),
                one.filters(),
                one.sort(),
                one.columns(),
                one.chart(),
                null);
    }

    private static List<String> filters(ListViewEntity row) {
        return row.filters.lines().toList();
    }

    private static List<String> columns(ListViewEntity row) {
        return row.columns.isEmpty() ? List.of() : List.of(row.columns.split(",", -1));
    }

    private static SavedView view(ListViewEntity row, CommandContext context, String standard) {
        var key = String.valueOf(row.id);
        return new SavedView(
                key,
                row.name,
                row.owner,
                row.forAll,
                mayChange(row, context),
                key.equals(standard),
                filters(row),
                row.sort,
                columns(row),
                row.chart,
                row.version);
    }

    /** Whoever keeps it; what is kept for all the finance lead may clear up too. */
    private static boolean mayChange(ListViewEntity row, CommandContext context) {
        return row.owner.equals(context.person().username())
                || (row.forAll && context.person().role() == Role.LEAD);
    }

    @Permissions.Read
    @PostMapping("/views")
    SavedView keep(@PathVariable String list, @Valid @RequestBody ViewIn request, HttpServletRequest http) {
        var of = lists.readable(list);
        return commands.run(http, request, SavedView.class, context -> {
            var row = new ListViewEntity();
            row.listName = list;
            row.owner = context.person().username();
            write(of, row, request);
            queries.session().insert(row);
            return view(row, context, "");
        });
    }

    private void write(DeclaredList list, ListViewEntity row, ViewIn asked) {
        list.checkAnswers(asked.filter(), asked.sort(), asked.columns(), asked.chart());
        var name = asked.name().strip();
        var taken = Stream.concat(
                list.views().stream().map(DeclaredList.Shipped::name),
                queries.readBy(list.name(), row.owner).stream()
                        .filter(other -> !other.id.equals(row.id))
                        .map(other -> other.name));
        if (taken.anyMatch(name::equalsIgnoreCase)) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("name", "a name that no other view of this list has"));
        }
        row.name = name;
        row.forAll = asked.forAll();
        row.filters = String.join("\n", asked.filter());
        row.sort = asked.sort();
        row.columns = String.join(",", asked.columns());
        row.chart = asked.chart();
    }

    @Permissions.Read
    @PutMapping("/views/{key}")
    SavedView change(
            @PathVariable String list,
            @PathVariable String key,
            @Valid @RequestBody ViewChange request,
            HttpServletRequest http) {
        var of = lists.readable(list);
        return commands.run(http, request, SavedView.class, context -> {
            var row = toChange(of, key, context);
            if (row.version.longValue() != request.version()) {
                throw new RefusedException(
                        new PlatformRefusal.StaleVersion("View " + row.name, request.version(), row.version));
            }
            write(of, row, request.view());
            queries.session().update(row);
            return view(
                    row,
                    context,
                    queries.standard(context.person().username(), list).orElse(""));
        });
    }

    @Permissions.Read
    @DeleteMapping("/views/{key}")
    List<SavedView> remove(@PathVariable String list, @PathVariable String key, HttpServletRequest http) {
        var of = lists.readable(list);
        return List.of(commands.run(http, List.of(list, key), SavedView[].class, context -> {
            queries.session().delete(toChange(of, key, context));
            queries.standardOfNobody(key);
            return views(of, context).toArray(SavedView[]::new);
        }));
    }

    private ListViewEntity toChange(DeclaredList list, String key, CommandContext context) {
        var row = queries.readBy(list.name(), context.person().username()).stream()
                .filter(one -> String.valueOf(one.id).equals(key))
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("view", key)));
        if (!mayChange(row, context)) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "change a view that " + row.owner + " keeps",
                    context.person().role(),
                    List.of(Role.LEAD)));
        }
        return row;
    }

    /** Which view whoever is signed in sees first. */
    @Permissions.Read
    @PutMapping("/standard")
    List<SavedView> standard(
            @PathVariable String list, @Valid @RequestBody StandardIn request, HttpServletRequest http) {
        var of = lists.readable(list);
        return List.of(commands.run(http, List.of(list, request.key()), SavedView[].class, context -> {
            var me = context.person().username();
            queries.noStandard(me, list);
            if (!request.key().isEmpty()) {
                if (views(of, context).stream().noneMatch(view -> view.key().equals(request.key()))) {
                    throw new RefusedException(new CommonRefusal.NotFound("view", request.key()));
                }
                var row = new StandardViewEntity();
                row.username = me;
                row.listName = list;
                row.viewKey = request.key();
                queries.session().insert(row);
            }
            return views(of, context).toArray(SavedView[]::new);
        }));
    }
}
