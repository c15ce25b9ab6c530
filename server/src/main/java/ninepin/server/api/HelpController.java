package ninepin.server.api;

import io.swagger.v3.oas.annotations.Hidden;
import java.util.Arrays;
import java.util.stream.Collectors;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.util.HtmlUtils;

/** The page that the types of problems lead to. */
@RestController
@Hidden
class HelpController {

    private static final String HEAD =
            """
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
            <link rel="icon" href="/icon.svg" type="image/svg+xml">
            <title>Problems – Ninepin</title><style>
            :root{color-scheme:light dark}
            body{font:16px/1.55 system-ui,sans-serif;max-width:44rem;margin:2.5rem auto;padding:0 1rem}
            h1{font-size:1.5rem}h2{font-size:1.05rem;margin:1.8rem 0 .2rem}p{margin:.2rem 0}
            code{font-family:ui-monospace,monospace;margin-right:.6rem}:target{outline:2px solid;outline-offset:.4rem}
            </style></head><body><h1>What a request to Ninepin can fail by</h1>
            <p>Every problem (RFC 9457) has a <code>code</code>that stays the same, and a <code>detail</code>that says what it is in
            this case.</p>
            """;

    @GetMapping(path = ProblemCode.PAGE, produces = MediaType.TEXT_HTML_VALUE)
    String problems() {
        return Arrays.stream(ProblemCode.values())
                .map(p -> "<section id=\"" + p.code() + "\"><h2><code>" + p.code() + "</code>"
                        + HtmlUtils.htmlEscape(p.title()) + "</h2><p>" + HtmlUtils.htmlEscape(p.help())
                        + "</p></section>\n")
                .collect(Collectors.joining("", HEAD, "</body></html>\n"));
    }
}
