package app.euthyna.server.platform;

import java.util.List;
import org.hibernate.dialect.function.array.AbstractArrayContainsFunction;
import org.hibernate.engine.spi.SessionFactoryImplementor;
import org.hibernate.metamodel.model.domain.ReturnableType;
import org.hibernate.sql.ast.SqlAstTranslator;
import org.hibernate.sql.ast.spi.SqlAppender;
import org.hibernate.sql.ast.tree.SqlAstNode;
import org.hibernate.type.spi.TypeConfiguration;

/**
 * Says {@code :these contains o.id} as {@code o.id = any(?)}, which H2 and PostgreSQL both answer from an index; as
 * Hibernate says it by itself they go through the table.
 */
final class IsAnyOf extends AbstractArrayContainsFunction {

    private IsAnyOf(TypeConfiguration types) {
        super(true, types);
    }

    /** Takes the place of what the dialect registered, which no contributor can: the dialect comes last. */
    static void install(SessionFactoryImplementor sessions) {
        sessions.getQueryEngine()
                .getSqmFunctionRegistry()
                .register("array_contains", new IsAnyOf(sessions.getTypeConfiguration()));
    }

    @Override
    public void render(
            SqlAppender sql, List<? extends SqlAstNode> arguments, ReturnableType<?> type, SqlAstTranslator<?> walker) {
        arguments.get(1).accept(walker);
        sql.append(" = any(");
        arguments.get(0).accept(walker);
        sql.append(')');
    }
}
