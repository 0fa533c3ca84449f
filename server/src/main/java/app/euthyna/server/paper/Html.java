package app.euthyna.server.paper;

/** Well-formed XHTML for the PDF library; every text is escaped here and nowhere else. */
final class Html {

    private final StringBuilder text = new StringBuilder();

    /** Markup of ours, as it is. */
    Html raw(String markup) {
        text.append(markup);
        return this;
    }

    /** A text of anybody's, with all that could be markup taken out of it; control characters go. */
    Html text(Object given) {
        var plain = String.valueOf(given);
        for (int at = 0; at < plain.length(); at++) {
            var c = plain.charAt(at);
            switch (c) {
                case '&' -> text.append("&amp;");
                case '<' -> text.append("&lt;");
                case '>' -> text.append("&gt;");
                case '"' -> text.append("&quot;");
                case '\n' -> text.append("<br/>");
                default -> text.append(c < ' ' || c >= '\uFFFE' || isHalf(plain, at) ? ' ' : c);
            }
        }
        return this;
    }

    /** Half of a character, without its other half beside it. */
    private static boolean isHalf(String text, int at) {
        var c = text.charAt(at);
        return Character.isHighSurrogate(c)
                ? at + 1 == text.length() || !Character.isLowSurrogate(text.charAt(at + 1))
                : Character.isLowSurrogate(c) && (at == 0 || !Character.isHighSurrogate(text.charAt(at - 1)));
    }

    Html element(String name, String cssClass, Object content) {
        return raw("<" + name + (cssClass.isEmpty() ? "" : " class=\"" + cssClass + "\"") + ">")
                .text(content)
                .raw("</" + name + ">");
    }

    Html cells(String... contents) {
        raw("<tr>");
        for (var content : contents) {
            // figures stand at the right: they are the cells that begin with a hash
            var figure = content.startsWith("#");
            element("td", figure ? "figure" : "", figure ? content.substring(1) : content);
        }
        return raw("</tr>");
    }

    Html head(String... titles) {
        raw("<thead><tr>");
        for (var title : titles) {
            var figure = title.startsWith("#");
            element("th", figure ? "figure" : "", figure ? title.substring(1) : title);
        }
        return raw("</tr></thead>");
    }

    @Override
    public String toString() {
        return text.toString();
    }
}
