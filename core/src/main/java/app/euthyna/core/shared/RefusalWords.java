package app.euthyna.core.shared;

import java.lang.reflect.InvocationTargetException;
import java.time.LocalDate;
import java.util.Collection;
import java.util.Locale;
import java.util.Optional;
import java.util.ResourceBundle;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * The words of refusals. Those that a class declares stand in the resource that is named like it: under the name of the
 * record the sentence, under the name and {@code .instead} what could be done instead; a {@link Refusal#variant()}
 * stands between, where it is worded otherwise. {@code {order}} is a component of the record or another method of it
 * without parameters, {@code {state.words}} what such a method of its value says.
 */
final class RefusalWords {

    private static final Pattern PLACE = Pattern.compile("\\{(\\w+)(?:\\.(\\w+))?}");
    private static final ResourceBundle.Control PROPERTIES =
            ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_PROPERTIES);

    private RefusalWords() {}

    static String sentence(Refusal refusal) {
        return words(refusal, "")
                .orElseThrow(() -> new IllegalStateException(refusal.getClass().getName() + " has no words"));
    }

    static String instead(Refusal refusal) {
        return words(refusal, ".instead").orElse("");
    }

    private static Optional<String> words(Refusal refusal, String what) {
        var type = refusal.getClass();
        Class<?> declaring = type;
        while (declaring.getEnclosingClass() != null) {
            declaring = declaring.getEnclosingClass();
        }
        var bundle = ResourceBundle.getBundle(declaring.getName(), Locale.ROOT, declaring.getClassLoader(), PROPERTIES);
        var name = type.getSimpleName();
        var varied = name + "." + refusal.variant() + what;
        var key = !refusal.variant().isEmpty() && bundle.containsKey(varied) ? varied : name + what;
        return bundle.containsKey(key)
                ? Optional.of(PLACE.matcher(bundle.getString(key)).replaceAll(place -> filled(refusal, place)))
                : Optional.empty();
    }

    private static String filled(Refusal refusal, MatchResult place) {
        var value = asked(refusal, place.group(1));
        return Matcher.quoteReplacement(said(place.group(2) == null ? value : asked(value, place.group(2))));
    }

    private static Object asked(Object of, String method) {
        try {
            var asked = of.getClass().getDeclaredMethod(method);
            asked.setAccessible(true);
            return asked.invoke(of);
        } catch (NoSuchMethodException | IllegalAccessException | InvocationTargetException e) {
            throw new IllegalStateException(of.getClass().getName() + " can't say its " + method, e);
        }
    }

    private static String said(Object value) {
        if (value instanceof LocalDate day) {
            return Figures.day(day);
        }
        return value instanceof Collection<?> several
                ? several.stream().map(RefusalWords::said).collect(Collectors.joining(", "))
                : String.valueOf(value);
    }
}
