package app.euthyna.server.platform;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/** Answers as they are kept for an idempotency key: those that are too long for their column packed. */
final class Answers {

    private static final int AS_THEY_ARE = 100_000;
    private static final String PACKED = "gzip:";

    private Answers() {}

    static String kept(String answer) {
        if (answer.length() <= AS_THEY_ARE) {
            return answer;
        }
        var packed = new ByteArrayOutputStream();
        try (var zip = new GZIPOutputStream(packed)) {
            zip.write(answer.getBytes(StandardCharsets.UTF_8));
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return PACKED + Base64.getEncoder().encodeToString(packed.toByteArray());
    }

    static String open(String kept) {
        if (!kept.startsWith(PACKED)) {
            return kept;
        }
        var packed = Base64.getDecoder().decode(kept.substring(PACKED.length()));
        try (var zip = new GZIPInputStream(new ByteArrayInputStream(packed))) {
            return new String(zip.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
    }
}
