package app.euthyna.server.platform;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.springframework.security.access.prepost.PreAuthorize;

/** Which roles may give a command. A controller and the finance lead may give every command of the day's work. */
public final class Permissions {

    private Permissions() {}

    /** Write and change orders, import files. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('CLERK', 'CONTROLLER', 'LEAD')")
    public @interface Enter {}

    /** Everyone of the day's work may ask; whether they may decide, the core says with the reason. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('CLERK', 'CONTROLLER', 'LEAD', 'WAREHOUSE', 'RECEIVABLES')")
    public @interface Propose {}

    /** Decide on orders: look what clearing several would do, have everything looked at that passes by the clock. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('CONTROLLER', 'LEAD')")
    public @interface Decide {}

    /** Move goods. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('WAREHOUSE', 'CONTROLLER', 'LEAD')")
    public @interface MoveGoods {}

    /** Bill and record money. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('RECEIVABLES', 'CONTROLLER', 'LEAD')")
    public @interface Bill {}

    /** Keep customers, items and stores. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('LEAD', 'ADMIN')")
    public @interface KeepMasterData {}

    /** Whoever is signed in; what it keeps is only that something was put on paper. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("isAuthenticated()")
    public @interface Read {}

    /** Close periods, post manually, keep accounts and the posting map. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasRole('LEAD')")
    public @interface KeepBooks {}

    /** Run the proof over everything. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasAnyRole('CONTROLLER', 'LEAD', 'AUDITOR')")
    public @interface Prove {}

    /** Keep users and their roles. */
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @PreAuthorize("hasRole('ADMIN')")
    public @interface KeepUsers {}
}
