package app.euthyna.server.batch;

import app.euthyna.server.platform.Permissions;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Logs of what was done many at a time, over HTTP. */
@RestController
@RequestMapping("/api/batches")
class BatchController {

    private final Batches batches;

    BatchController(Batches batches) {
        this.batches = batches;
    }

    @GetMapping
    Batches.BatchPage page(
            @RequestParam(required = false) Batches.Kind kind, @RequestParam(required = false) String after) {
        return batches.page(kind, after);
    }

    @GetMapping("/{id}")
    Batches.BatchView batch(
            @PathVariable long id,
            @RequestParam(required = false) Batches.State state,
            @RequestParam(required = false) String after) {
        return batches.view(id, state, after);
    }

    @Permissions.Propose
    @PostMapping("/{id}/stops")
    Batches.BatchView stop(@PathVariable long id, HttpServletRequest http) {
        return batches.stop(http, id);
    }

    @Permissions.Propose
    @PostMapping("/{id}/resumptions")
    Batches.BatchView goOn(@PathVariable long id, HttpServletRequest http) {
        return batches.goOn(http, id);
    }

    @Permissions.Propose
    @PostMapping("/{id}/entries/{no}/exclusions")
    Batches.BatchView leaveOut(@PathVariable long id, @PathVariable int no, HttpServletRequest http) {
        return batches.leaveOut(http, id, no);
    }

    /** Goes on with the documents that it came to; the answer is the log of that. */
    @Permissions.Propose
    @PostMapping("/{id}/next-steps")
    Batches.BatchView goOnWith(@PathVariable long id, HttpServletRequest http) {
        return batches.goOnWith(http, id);
    }
}
