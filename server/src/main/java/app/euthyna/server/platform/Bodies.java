package app.euthyna.server.platform;

import jakarta.servlet.AsyncContext;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.Filter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.ServletRequest;
import jakarta.servlet.ServletResponse;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.http.HttpStatus;
import org.springframework.http.InvalidMediaTypeException;
import org.springframework.http.MediaType;
import tools.jackson.databind.ObjectMapper;

/**
 * What a request may bring, before anybody else reads it: JSON, or a file by someone who could be signed in, of limited
 * size. A JSON body is gathered as it comes, without a thread that waits for it, and only so long; so a sender who
 * stops half-way, or sends a byte a second, keeps nobody waiting.
 */
final class Bodies implements Filter {

    static final int LARGEST_JSON = 4 * 1024 * 1024;
    static final Duration PATIENCE = Duration.ofSeconds(15);

    /** Bodies that are gathered at once may come to this together; more wait for their turn by being refused. */
    private static final int TOGETHER = 96 * 1024 * 1024;

    private static final int FILES_AT_ONCE = 6;
    private static final String GATHERED = Bodies.class.getName();
    private static final Set<String> WITH_BODY = Set.of("POST", "PUT", "PATCH", "DELETE");

    private final ObjectMapper json;
    private final Semaphore files = new Semaphore(FILES_AT_ONCE);
    private final Semaphore bytes = new Semaphore(TOGETHER);
    private final ScheduledExecutorService watch = Executors.newSingleThreadScheduledExecutor(task -> {
        var thread = new Thread(task, "bodies");
        thread.setDaemon(true);
        return thread;
    });

    Bodies(ObjectMapper json) {
        this.json = json;
    }

    @Override
    public void doFilter(ServletRequest given, ServletResponse answer, FilterChain chain)
            throws IOException, ServletException {
        var request = (HttpServletRequest) given;
        var response = (HttpServletResponse) answer;
        if (request.getAttribute(GATHERED) instanceof byte[] body) {
            chain.doFilter(new Gathered(request, body), response);
            return;
        }
        if (!WITH_BODY.contains(request.getMethod())
                || (request.getContentLengthLong() <= 0 && request.getHeader("Transfer-Encoding") == null)) {
            chain.doFilter(request, response);
            return;
        }
        var type = type(request);
        if (type != null && type.equalsTypeAndSubtype(MediaType.MULTIPART_FORM_DATA)) {
            file(type, request, response, chain);
        } else if (type == null || !type.equalsTypeAndSubtype(MediaType.APPLICATION_JSON)) {
            refuse(response, HttpStatus.UNSUPPORTED_MEDIA_TYPE, "A request is JSON, or a file as a form sends it.");
        } else if (request.getContentLengthLong() > LARGEST_JSON) {
            refuse(response, HttpStatus.CONTENT_TOO_LARGE, "The request is larger than 4 MB.");
        } else {
            gather(request, response);
        }
    }

    private static MediaType type(HttpServletRequest request) {
        try {
            return request.getContentType() == null ? null : MediaType.parseMediaType(request.getContentType());
        } catch (InvalidMediaTypeException none) {
            return null;
        }
    }

    /** Whoever can't be signed in, or sends no token, is told so before the file is read. */
    private void file(MediaType type, HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        if (type.getParameter("boundary") == null) {
            refuse(response, HttpStatus.BAD_REQUEST, "The form has no boundary.");
        } else if (request.getHeader("X-XSRF-TOKEN") == null || request.getCookies() == null) {
            refuse(response, HttpStatus.FORBIDDEN, "not-authorised", "Sign in first.");
        } else if (!files.tryAcquire()) {
            refuse(response, HttpStatus.SERVICE_UNAVAILABLE, "Other files are being read. Try again in a moment.");
        } else {
            try {
                chain.doFilter(request, response);
            } finally {
                files.release();
            }
        }
    }

    private void gather(HttpServletRequest request, HttpServletResponse response) throws IOException {
        var expected = (int) (request.getContentLengthLong() > 0 ? request.getContentLengthLong() : LARGEST_JSON);
        if (!bytes.tryAcquire(expected)) {
            refuse(response, HttpStatus.SERVICE_UNAVAILABLE, "Other requests are being read. Try again in a moment.");
            return;
        }
        var waiting = request.startAsync(request, response);
        waiting.setTimeout(0);
        request.getInputStream().setReadListener(new Gathering(waiting, request, response, expected));
    }

    private final class Gathering implements ReadListener {

        private final AsyncContext waiting;
        private final HttpServletRequest request;
        private final HttpServletResponse response;
        private final int reserved;
        private final ByteArrayOutputStream body = new ByteArrayOutputStream(1024);
        private final byte[] buffer = new byte[8192];
        private final AtomicBoolean over = new AtomicBoolean();
        private final ScheduledFuture<?> deadline;

        private Gathering(
                AsyncContext waiting, HttpServletRequest request, HttpServletResponse response, int reserved) {
            this.waiting = waiting;
            this.request = request;
            this.response = response;
            this.reserved = reserved;
            this.deadline = watch.schedule(
                    () -> end(HttpStatus.REQUEST_TIMEOUT, "The request did not come in time."),
                    PATIENCE.toMillis(),
                    TimeUnit.MILLISECONDS);
        }

        @Override
        public void onDataAvailable() throws IOException {
            var in = request.getInputStream();
            while (!over.get() && in.isReady()) {
                var read = in.read(buffer);
                if (read < 0) {
                    return;
                }
                body.write(buffer, 0, read);
                if (body.size() > LARGEST_JSON) {
                    end(HttpStatus.CONTENT_TOO_LARGE, "The request is larger than 4 MB.");
                }
            }
        }

        @Override
        public void onAllDataRead() {
            if (finish()) {
                request.setAttribute(GATHERED, body.toByteArray());
                waiting.dispatch();
            }
        }

        @Override
        public void onError(Throwable broken) {
            if (finish()) {
                waiting.complete();
            }
        }

        private boolean finish() {
            if (!over.compareAndSet(false, true)) {
                return false;
            }
            deadline.cancel(false);
            bytes.release(reserved);
            return true;
        }

        /** The connection is closed with the answer: what is still on its way is nobody's next request. */
        private void end(HttpStatus status, String sentence) {
            if (finish()) {
                try {
                    refuse(response, status, sentence);
                } catch (IOException gone) {
                    // whoever sent it has hung up
                } finally {
                    waiting.complete();
                }
            }
        }
    }

    private void refuse(HttpServletResponse response, HttpStatus status, String sentence) throws IOException {
        refuse(response, status, "malformed", sentence);
    }

    private void refuse(HttpServletResponse response, HttpStatus status, String code, String sentence)
            throws IOException {
        response.setHeader("Connection", "close");
        Problems.write(json, response, status, code, sentence);
    }

    /** A request with its body at hand. For all filters it is the first they see of it. */
    private static final class Gathered extends HttpServletRequestWrapper {

        private final byte[] body;

        private Gathered(HttpServletRequest request, byte[] body) {
            super(request);
            this.body = body;
        }

        @Override
        public DispatcherType getDispatcherType() {
            return DispatcherType.REQUEST;
        }

        @Override
        public boolean isAsyncStarted() {
            return false;
        }

        @Override
        public int getContentLength() {
            return body.length;
        }

        @Override
        public long getContentLengthLong() {
            return body.length;
        }

        @Override
        public BufferedReader getReader() {
            return new BufferedReader(new InputStreamReader(new ByteArrayInputStream(body), StandardCharsets.UTF_8));
        }

        @Override
        public ServletInputStream getInputStream() {
            var in = new ByteArrayInputStream(body);
            return new ServletInputStream() {
                @Override
                public boolean isFinished() {
                    return in.available() == 0;
                }

                @Override
                public boolean isReady() {
                    return true;
                }

                @Override
                public void setReadListener(ReadListener listener) {
                    throw new IllegalStateException("the body is there");
                }

                @Override
                public int read() {
                    return in.read();
                }

                @Override
                public int read(byte[] into, int from, int length) {
                    return in.read(into, from, length);
                }
            };
        }
    }
}
