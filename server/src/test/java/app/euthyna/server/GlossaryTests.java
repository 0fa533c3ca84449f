package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** One concept, one word: a word that docs/glossary.md says was replaced does not come back anywhere. */
class GlossaryTests {

    private static final Path ROOT = Path.of("..").toAbsolutePath().normalize();
    private static final Pattern READ = Pattern.compile(".*\\.(java|ts|tsx|css|yaml|md|sql|sh)|.*/euthyna");

    private static final Set<String> NOT_ENTERED = Set.of("target", "node_modules", ".git", ".euthyna");

    /** What is generated, what once landed and never changes, and what names the replaced words on purpose. */
    private static final Pattern LEFT_OUT = Pattern.compile(
            ".*/schema\\.d\\.ts|.*/db/migration/.*|.*/docs/glossary\\.md|.*/(Glossary|Migration)Tests\\.java");

    /** @param begins what every place has where it is found, in small letters: most texts are not looked at further */
    private record Replaced(String word, String begins, Pattern pattern) {

        static Replaced of(String word) {
            if (word.startsWith("/")) {
                return new Replaced(
                        word, "", Pattern.compile(word.substring(1, word.length() - 1), Pattern.CASE_INSENSITIVE));
            }
            // a name of our code is looked for as it is written, a phrase in any case and over line ends
            var name = word.matches("[A-Z]\\S*|\\S*[a-z][A-Z]\\S*");
            var words = Stream.of(word.split(" ", -1)).map(Pattern::quote).toList();
            return new Replaced(
                    word,
                    word.split(" ", 2)[0].toLowerCase(Locale.ROOT),
                    Pattern.compile(
                            "(?<!\\w)" + String.join("[\\s*]+", words) + "(?!\\w)",
                            name ? 0 : Pattern.CASE_INSENSITIVE));
        }
    }

    private static List<Replaced> replaced() throws IOException {
        return Files.readAllLines(ROOT.resolve("docs/glossary.md")).stream()
                .filter(line -> line.startsWith("| ") && !line.startsWith("| word ") && !line.startsWith("| ---"))
                .map(line -> line.split("(?<!\\\\)\\|", -1)[3].strip().replace("\\|", "|"))
                .filter(cell -> !cell.isEmpty())
                .flatMap(cell -> cell.startsWith("/") ? Stream.of(cell) : Arrays.stream(cell.split(",\\s*", -1)))
                .map(Replaced::of)
                .toList();
    }

    /** What is read; directories of what is built or fetched are not entered, they hold a hundred times as much. */
    private static List<Path> files() throws IOException {
        var files = new ArrayList<Path>();
        Files.walkFileTree(ROOT, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path directory, BasicFileAttributes attributes) {
                return NOT_ENTERED.contains(directory.getFileName().toString())
                        ? FileVisitResult.SKIP_SUBTREE
                        : FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                var name = file.toString();
                if (READ.matcher(name).matches() && !LEFT_OUT.matcher(name).matches()) {
                    files.add(file);
                }
                return FileVisitResult.CONTINUE;
            }
        });
        return files;
    }

    @Test
    void noReplacedWordComesBack() throws IOException {
        var words = replaced();
        assertThat(words).as("words that the glossary says were replaced").hasSizeGreaterThan(50);
        var back = new ArrayList<String>();
        var files = files();
        for (var file : files) {
            var text = Files.readString(file);
            var small = text.toLowerCase(Locale.ROOT);
            for (var word : words) {
                if (!small.contains(word.begins())) {
                    continue;
                }
                var found = word.pattern().matcher(text);
                if (found.find()) {
                    var line = text.substring(0, found.start()).lines().count();
                    back.add("%s in %s, line %d".formatted(word.word(), ROOT.relativize(file), Math.max(1, line)));
                }
            }
        }
        assertThat(files).as("files that were read").hasSizeGreaterThan(500);
        assertThat(back).isEmpty();
    }

    @Test
    void aWordIsFoundInAnyCaseAndOverALineEnd() {
        var phrase = Replaced.of("hand in").pattern();
        assertThat(phrase.matcher("Hand in the order").find()).isTrue();
        assertThat(phrase.matcher("what one would hand\n * in").find()).isTrue();
        assertThat(phrase.matcher("a second-hand inn").find()).isFalse();
        var name = Replaced.of("PerTransaction").pattern();
        assertThat(name.matcher("new PerTransaction<>()").find()).isTrue();
        assertThat(name.matcher("a lock per transaction").find()).isFalse();
    }
}
