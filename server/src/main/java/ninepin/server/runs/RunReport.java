package ninepin.server.runs;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Tally;
import ninepin.core.format.delimited.SpreadsheetText;
import ninepin.core.run.RunAccount;
import ninepin.server.runs.FindingMapper.ReasonRow;
import ninepin.server.runs.LegAccounts.PlaceView;
import org.springframework.web.util.HtmlUtils;

/** What a run came to, as one page that needs nothing else, or as delimited text: fit to be mailed. */
final class RunReport {

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss");
    private static final String STYLE =
            """
            body{font:15px/1.5 system-ui,sans-serif;color:#1d2a23;background:#fff;max-width:56rem;margin:2rem auto;padding:0 1rem}
            h1{font-size:1.4rem;margin:0}h2{font-size:1.05rem;margin:1.6rem 0 .4rem}p{margin:.2rem 0}
            table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:.25rem .6rem;border-bottom:1px solid #d8d2c4;vertical-align:top}
            th{font-size:.8rem;color:#5f6b62}.n{text-align:right;font-variant-numeric:tabular-nums}.bad{color:#9b2d20}.data{font-family:ui-monospace,monospace}
            """;

    private final RunView run;
    private final List<ReasonRow> reasons;
    private final List<PlaceView> places;
    private final ZoneId zone;

    RunReport(RunView run, List<ReasonRow> reasons, List<PlaceView> places, ZoneId zone) {
        this.run = run;
        this.reasons = reasons;
        this.places = places;
        this.zone = zone;
    }

    /** One page of HTML. */
    String html() {
        StringBuilder out = new StringBuilder("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>");
        out.append(text("Run " + run.id() + " of " + run.title()));
        out.append("</title><style>").append(STYLE).append("</style></head><body><h1>");
        out.append(text(run.title())).append(", run ").append(run.id()).append("</h1>");
        out.append("<p>")
                .append(text(state()))
                .append("</p><p>File <span class=\"data\">")
                .append(text(run.fileName()));
        out.append("</span>, version ")
                .append(run.version())
                .append(", started by ")
                .append(text(run.startedBy()));
        out.append(' ')
                .append(time(run.startedAt()))
                .append(", ended ")
                .append(time(run.endedAt()))
                .append(", ");
        out.append(String.format(Locale.ROOT, "%.1f", run.busyMillis() / 1000.0))
                .append(" s at work</p>");
        tally(out);
        if (run.undoes() == null) {
            places(out);
        }
        out.append("<h2>Findings by reason</h2>");
        if (reasons.isEmpty()) {
            out.append("<p>None.</p>");
        } else {
            out.append(
                    "<table><tr><th>Weight<th>Reason<th class=\"n\">Count<th class=\"n\">First line<th>Such as</tr>");
            for (ReasonRow r : reasons) {
                out.append("<tr><td")
                        .append(r.severity().equals("note") ? ">" : " class=\"bad\">")
                        .append(r.severity());
                out.append("<td>")
                        .append(text(r.reason()))
                        .append(" <span class=\"data\">")
                        .append(r.code());
                out.append("</span>");
                cell(out, r.count());
                cell(out, r.firstLine());
                out.append("<td class=\"data\">").append(text(r.example())).append("</tr>");
            }
            out.append("</table>");
        }
        return out.append("</body></html>").toString();
    }

    private String state() {
        return words(run.state())
                + (run.message() == null ? "" : ": " + run.message())
                + (run.code() == null ? "" : " [" + run.code() + "]");
    }

    private static String words(RunState state) {
        String words = state.name().toLowerCase(Locale.ROOT).replace('_', ' ');
        return Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    /** A figure of a tally, as all forms of the report call it. */
    private record Figure(String name, long n) {}

    /** What became of the records of a place, or of all places; what a job with one place cannot have is left out. */
    private List<Figure> records(Tally t, long open) {
        List<Figure> all = new ArrayList<>(List.of(
                new Figure("Read", t.read()),
                new Figure("Delivered", t.delivered()),
                new Figure("Rejected", t.rejected()),
                new Figure("Set aside", t.setAside()),
                new Figure("Without rows", t.withoutRows())));
        if (places.size() > 1) {
            all.add(new Figure("For other places", t.elsewhere()));
            all.add(new Figure("Not in all places yet", open));
        }
        return all;
    }

    private static List<Figure> rows(RowCounts rows) {
        return List.of(
                new Figure("Rows added", rows.added()),
                new Figure("Rows changed", rows.changed()),
                new Figure("Rows unchanged", rows.unchanged()),
                new Figure("Rows removed", rows.removed()));
    }

    private List<Figure> figures(Tally t, long open) {
        List<Figure> all = records(t, open);
        all.addAll(rows(t.allRows()));
        all.add(new Figure("Blank rows", t.blank()));
        all.add(new Figure("Notes", t.notes()));
        return all;
    }

    private void tally(StringBuilder out) {
        out.append("<h2>Tally</h2>");
        table(out, "", List.of(new Line("", figures(run.tally(), run.open()))));
        out.append("<p>")
                .append(
                        run.balances()
                                ? "It balances: every record read is accounted for, once."
                                : "It does not balance.")
                .append("</p>");
    }

    /** A line of a table of figures, all lines with the same ones. */
    private record Line(String name, List<Figure> figures) {}

    private static void table(StringBuilder out, String heading, List<Line> lines) {
        if (lines.isEmpty()) {
            return;
        }
        out.append("<table><tr>").append(heading.isEmpty() ? "" : "<th>" + heading);
        for (Figure figure : lines.get(0).figures()) {
            out.append("<th class=\"n\">").append(figure.name());
        }
        out.append("</tr>");
        for (Line line : lines) {
            out.append("<tr>");
            if (!heading.isEmpty()) {
                out.append("<td class=\"data\">").append(text(line.name()));
            }
            line.figures().forEach(figure -> cell(out, figure.n()));
            out.append("</tr>");
        }
        out.append("</table>");
    }

    private void places(StringBuilder out) {
        if (places.size() > 1) {
            out.append("<h2>Places</h2>");
            table(
                    out,
                    "To",
                    places.stream()
                            .map(p -> new Line(
                                    p.to() + ", " + words(p.state()).toLowerCase(Locale.ROOT), records(p.tally(), 0)))
                            .toList());
            places.stream().filter(p -> p.message() != null).forEach(p -> out.append("<p class=\"bad\">")
                    .append(text(p.to() + ": " + p.message()))
                    .append("</p>"));
        }
        out.append("<h2>Deliveries</h2>");
        table(out, "To", deliveries().map(d -> new Line(d.to(), figures(d))).toList());
    }

    private Stream<RunAccount.DeliveryAccount> deliveries() {
        return places.stream().flatMap(p -> p.deliveries().stream());
    }

    private static List<Figure> figures(RunAccount.DeliveryAccount delivery) {
        List<Figure> all = new ArrayList<>(List.of(new Figure("Records", delivery.records())));
        all.addAll(rows(delivery.rows()));
        all.add(new Figure("Documents refused", delivery.refused()));
        return all;
    }

    private static void cell(StringBuilder out, long n) {
        out.append("<td class=\"n\">")
                .append(String.format(Locale.ROOT, "%,d", n).replace(',', '\u202f'));
    }

    private String time(Instant at) {
        return at == null ? "–" : TIME.format(at.atZone(zone));
    }

    private static String text(String raw) {
        return raw == null ? "" : HtmlUtils.htmlEscape(raw, "UTF-8");
    }

    /** Delimited after RFC 4180: a line for each figure of the tally and for each reason. */
    String delimited() {
        StringBuilder out = new StringBuilder();
        line(out, "kind", "name", "count", "first line", "example");
        line(out, "run", String.valueOf(run.id()), "", "", run.title() + ", " + run.fileName() + ", " + state());
        figures(run.tally(), run.open()).forEach(f -> figure(out, "tally", f));
        if (places.size() > 1) {
            places.forEach(p -> records(p.tally(), 0).forEach(f -> figure(out, "place " + p.to(), f)));
        }
        deliveries().forEach(d -> figures(d).forEach(f -> figure(out, "delivery " + d.to(), f)));
        for (ReasonRow r : reasons) {
            line(
                    out,
                    r.severity(),
                    r.reason() + " [" + r.code() + "]",
                    String.valueOf(r.count()),
                    String.valueOf(r.firstLine()),
                    r.example());
        }
        return out.toString();
    }

    private static void figure(StringBuilder out, String of, Figure figure) {
        line(out, of, figure.name().toLowerCase(Locale.ROOT), String.valueOf(figure.n()), "", "");
    }

    private static void line(StringBuilder out, String... values) {
        for (int i = 0; i < values.length; i++) {
            String value = values[i] == null ? "" : values[i];
            String safe = SpreadsheetText.safe(value);
            out.append(i == 0 ? "" : ",");
            out.append(safe.matches("(?s).*[\",\\r\\n].*") ? '"' + safe.replace("\"", "\"\"") + '"' : safe);
        }
        out.append("\r\n");
    }
}
