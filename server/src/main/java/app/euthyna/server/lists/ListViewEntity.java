package app.euthyna.server.lists;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;

/** What was asked of a list, kept under a name. */
@Entity
@Table(name = "list_view")
public class ListViewEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String listName;
    String name;
    String owner;
    boolean forAll;

    /** As they are written in an address, a line each. */
    String filters;

    String sort;

    /** Separated by commas. */
    String columns;

    String chart;

    @Version
    Long version;
}
