package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Whose rows a capability asks for in HQL, which Java's own arrows do not show; nobody writes another's. */
class RowsTests {

    private static final List<Path> SOURCES =
            List.of(Path.of("src/main/java/app/euthyna/server"), Path.of("../demo/src/main/java/app/euthyna"));
    private static final Pattern ENTITY = Pattern.compile("\\b(\\w+Entity)\\b");
    private static final Pattern WRITE =
            Pattern.compile("\\b(?:update|delete(?:\\s+from)?|insert\\s+into)\\s+(\\w+Entity)\\b");

    /** By capability, those whose rows it asks for beside its own. A new arrow is drawn here, or done without. */
    private static final Map<String, String> ASKS = Map.ofEntries(
            Map.entry("platform", "billing check goods ledger masterdata order people returns"),
            Map.entry("people", "flow order"),
            Map.entry("masterdata", "goods"),
            Map.entry("order", "approval billing flow goods masterdata returns"),
            Map.entry("check", "approval billing exchange flow goods masterdata order platform returns"),
            Map.entry("approval", "masterdata order platform"),
            Map.entry("goods", "flow masterdata order returns"),
            Map.entry("billing", "check flow goods ledger masterdata order platform returns"),
            Map.entry("returns", "billing goods masterdata order platform"),
            Map.entry("bank", "billing masterdata returns"),
            Map.entry("paper", "billing goods masterdata order platform returns"),
            Map.entry("ledger", "masterdata"),
            Map.entry("unwind", "billing goods masterdata order returns"),
            Map.entry("trail", "billing goods ledger masterdata order platform returns"),
            Map.entry("proof", "billing goods ledger masterdata order platform returns"),
            Map.entry("exchange", "masterdata"),
            Map.entry("find", "billing goods ledger masterdata order returns"),
            Map.entry("sheet", "billing exchange flow goods masterdata order platform returns"),
            Map.entry("today", "approval billing check flow goods order platform returns unwind"),
            Map.entry("demo", "billing masterdata"));

    private record Source(String capability, String name, String text) {}

    private static List<Source> sources() throws IOException {
        var sources = new ArrayList<Source>();
        for (var root : SOURCES) {
            try (var files = Files.walk(root)) {
                files.filter(file -> file.toString().endsWith(".java"))
                        .map(file -> new Source(
                                root.relativize(file).getName(0).toString(),
                                file.getFileName().toString().replace(".java", ""),
                                read(file)))
                        .forEach(sources::add);
            }
        }
        return sources;
    }

    private static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static Map<String, String> owners(List<Source> sources) {
        return sources.stream()
                .filter(source -> source.name().endsWith("Entity"))
                .collect(Collectors.toMap(Source::name, Source::capability));
    }

    @Test
    void areAskedForAsDrawn() throws IOException {
        var sources = sources();
        var owners = owners(sources);
        assertThat(owners).hasSizeGreaterThan(85);
        var asked = new TreeMap<String, TreeSet<String>>();
        for (var source : sources) {
            ENTITY.matcher(source.text())
                    .results()
                    .map(found -> owners.get(found.group(1)))
                    .filter(owner -> owner != null && !owner.equals(source.capability()))
                    .forEach(owner -> asked.computeIfAbsent(source.capability(), one -> new TreeSet<>())
                            .add(owner));
        }
        var drawn = new TreeMap<String, TreeSet<String>>();
        ASKS.forEach((capability, others) -> drawn.put(capability, new TreeSet<>(List.of(others.split(" ")))));
        assertThat(asked).isEqualTo(drawn);
    }

    @Test
    void areWrittenByTheirOwnCapabilityAlone() throws IOException {
        var sources = sources();
        var owners = owners(sources);
        var written = 0;
        var foreign = new ArrayList<String>();
        for (var source : sources) {
            for (var found : WRITE.matcher(source.text()).results().toList()) {
                written++;
                if (!source.capability().equals(owners.get(found.group(1)))) {
                    foreign.add(source.name() + " writes " + found.group(1));
                }
            }
        }
        assertThat(written).isGreaterThan(40);
        assertThat(foreign).isEmpty();
    }

    /** Hibernate would translate {@code in (:these)} anew at every question. */
    @Test
    void areAskedForByArrays() throws IOException {
        var list = Pattern.compile("\\.\\w+\\)? in \\(:");
        assertThat(sources()).noneMatch(source -> list.matcher(source.text()).find());
    }
}
