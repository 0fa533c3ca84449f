package app.euthyna.server.check;

import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Severity;
import app.euthyna.server.flow.OpenFindings;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.Texts;
import app.euthyna.server.platform.TransactionCache;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Findings in the database; their evidence as JSON under the name of its type. */
@Component
public class FindingStore implements OpenFindings {

    private static final Map<String, Class<?>> TYPES =
            records(Evidence.class).collect(Collectors.toMap(Class::getSimpleName, Function.identity()));

    private final ReviewQueries queries;
    private final Ids ids;
    private final TransactionCache<Long, List<FindingEntity>> known = TransactionCache.readThrough();

    FindingStore(ReviewQueries queries, Ids ids) {
        this.queries = queries;
        this.ids = ids;
    }

    private static Stream<Class<?>> records(Class<?> type) {
        return type.isSealed()
                ? Arrays.stream(type.getPermittedSubclasses()).flatMap(FindingStore::records)
                : Stream.of(type);
    }

    @Override
    public boolean areOpen(long order) {
        return known.known(order)
                .map(found -> found.stream().anyMatch(finding -> finding.state == Finding.State.OPEN))
                .orElseGet(() -> queries.openFindings(order) > 0);
    }

    public List<Finding> of(String order) {
        return stored(ids.order(order)).stream().map(this::toCore).toList();
    }

    private List<FindingEntity> stored(long order) {
        return known.get(order, queries::findings);
    }

    private Finding toCore(FindingEntity f) {
        var evidence = (Evidence) Records.read(f.evidence, TYPES.get(f.evidenceType));
        var waiver = f.waivedBy == null
                ? Optional.<Finding.Waiver>empty()
                : Optional.of(new Finding.Waiver(f.waivedBy, f.waivedOn, f.waiverReason));
        return new Finding(Severity.valueOf(f.severity), f.state, evidence, f.since, waiver);
    }

    void save(String order, List<Finding> findings) {
        var id = ids.order(order);
        var rows = stored(id);
        var stored = rows.stream().collect(Collectors.toMap(f -> f.checkCode, Function.identity()));
        for (var finding : findings) {
            var entity = stored.computeIfAbsent(finding.check().code(), code -> {
                var added = new FindingEntity();
                added.orderId = id;
                added.checkCode = code;
                return added;
            });
            if (entity.id == null) {
                write(finding, entity);
                queries.session().insert(entity);
                rows.add(entity);
            } else if (!toCore(entity).equals(finding)) {
                write(finding, entity);
                queries.session().update(entity);
            }
        }
    }

    private static void write(Finding finding, FindingEntity entity) {
        entity.severity = finding.severity().name();
        entity.state = finding.state();
        entity.brief = Texts.cut(finding.evidence().brief(), 200);
        entity.evidenceType = finding.evidence().getClass().getSimpleName();
        entity.evidence = Records.write(finding.evidence());
        entity.since = finding.since();
        entity.waivedBy = finding.waiver().map(Finding.Waiver::by).orElse(null);
        entity.waivedOn = finding.waiver().map(Finding.Waiver::on).orElse(null);
        entity.waiverReason = finding.waiver().map(Finding.Waiver::reason).orElse(null);
    }
}
