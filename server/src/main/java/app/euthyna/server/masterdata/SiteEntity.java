package app.euthyna.server.masterdata;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "site")
public class SiteEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String code;
    String name;
}
