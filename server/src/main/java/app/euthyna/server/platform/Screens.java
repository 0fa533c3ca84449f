package app.euthyna.server.platform;

import java.io.IOException;
import java.time.Duration;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/**
 * Ships the screens: assets for good, the page itself fresh each time, and the page for every address within the
 * application.
 */
@Configuration
class Screens implements WebMvcConfigurer {

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/assets/**")
                .addResourceLocations("classpath:/META-INF/resources/assets/")
                .setUseLastModified(false)
                .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable());
        registry.addResourceHandler("/**")
                .addResourceLocations("classpath:/META-INF/resources/")
                .setUseLastModified(false)
                .setCacheControl(CacheControl.noStore())
                .resourceChain(false)
                .addResolver(new Page());
    }

    private static final class Page extends PathResourceResolver {
        @Override
        protected Resource getResource(String path, Resource location) throws IOException {
            if (path.startsWith("api/") || path.startsWith("assets/")) {
                return null;
            }
            var asked = super.getResource(path, location);
            return asked != null && !path.isEmpty() ? asked : super.getResource("index.html", location);
        }
    }
}
