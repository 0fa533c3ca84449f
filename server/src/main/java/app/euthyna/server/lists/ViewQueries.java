package app.euthyna.server.lists;

import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ViewQueries {
    StatelessSession session();

    /** A user's own and everybody's, by name. */
    @HQL("""
            from ListViewEntity v
            where v.listName = :listName and (v.owner = :reader or v.forAll = true)
            order by v.name, v.id
            """)
    List<ListViewEntity> readBy(String listName, String reader);

    @HQL("select v.viewKey from StandardViewEntity v where v.username = :username and v.listName = :listName")
    Optional<String> standard(String username, String listName);

    @HQL("delete from StandardViewEntity v where v.username = :username and v.listName = :listName")
    int noStandard(String username, String listName);

    @HQL("delete from StandardViewEntity v where v.viewKey = :viewKey")
    int standardOfNobody(String viewKey);
}
