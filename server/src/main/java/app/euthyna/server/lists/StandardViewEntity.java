package app.euthyna.server.lists;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

/** What a user sees first of a list. */
@Entity
@IdClass(StandardViewEntity.Key.class)
@Table(name = "standard_view")
public class StandardViewEntity {
    @Id
    String username;

    @Id
    String listName;

    String viewKey;

    public record Key(String username, String listName) {}
}
