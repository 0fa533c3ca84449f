package app.euthyna.e2e.cases;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import tools.jackson.core.JacksonException;

/**
 * Runs every {@code *.yaml} below a directory against a running application and prints a line a case. Cases that wait
 * for capabilities to come are named in a file of their own: they are run all the same and told apart from those that
 * failed.
 */
public final class CaseRunner {

    private CaseRunner() {}

    /** Arguments: the directory, the URL, and the file that names the cases that wait, if there is one. */
    public static void main(String[] arguments) throws IOException {
        var waiting = arguments.length > 2 ? waiting(Path.of(arguments[2])) : Set.<String>of();
        System.exit(run(Path.of(arguments[0]), arguments[1], waiting) ? 0 : 1);
    }

    /** The cases that a file names as waiting. */
    public static Set<String> waiting(Path file) throws IOException {
        return new HashSet<>(Files.readAllLines(file).stream()
                .map(String::strip)
                .filter(line -> !line.isEmpty() && !line.startsWith("#"))
                .map(line -> line.split("\\s+", 2)[0])
                .toList());
    }

    /** Whether no case failed. */
    public static boolean run(Path directory, String url, Set<String> waiting) throws IOException {
        List<Path> files;
        try (var found = Files.walk(directory)) {
            files = found.filter(file -> file.toString().endsWith(".yaml"))
                    .sorted()
                    .toList();
        }
        var users = Users.at(url);
        var failed = 0;
        var passed = 0;
        var waits = new ArrayList<String>();
        for (var file : files) {
            var name = file.getFileName().toString();
            var failure = failure(file, users);
            if (failure == null) {
                passed++;
                System.out.println("ok      " + name);
            } else if (waiting.contains(name)) {
                waits.add(name);
                System.out.println("waits   " + name + ": " + failure);
            } else {
                failed++;
                System.out.println("FAILED  " + name + ": " + failure);
            }
        }
        if (!waits.isEmpty()) {
            System.out.println(waits.size() + " wait for capabilities to come: " + String.join(", ", waits));
        }
        if (files.isEmpty()) {
            System.out.println("no case below " + directory);
        }
        System.out.println(passed + " passed, " + failed + " failed");
        return failed == 0 && !files.isEmpty();
    }

    private static String failure(Path file, Users users) throws IOException {
        try {
            var read = Yaml.read(Files.readString(file), file.getFileName().toString());
            new Case(read, users, UUID.randomUUID().toString().substring(0, 8)).run();
            return null;
        } catch (CaseFailed | JacksonException failed) {
            return failed.getMessage();
        } catch (app.euthyna.e2e.client.Api.Refused refused) {
            return "refused with " + refused.getMessage();
        }
    }
}
