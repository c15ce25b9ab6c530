package ninepin.server.runs;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import ninepin.core.deliver.Tally;
import ninepin.core.write.SpreadsheetText;
import ninepin.server.runs.FindingMapper.ReasonRow;
import ninepin.server.runs.LegAccounts.LegView;
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
    private final List<LegView> legs;
    private final ZoneId zone;

    RunReport(RunView run, List<ReasonRow> reasons, List<LegView> legs, ZoneId zone) {
        this.run = run;
        this.reasons = reasons;
        this.legs = legs;
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
        tally(out, run.tally());
        if (legs.size() > 1) {
            out.append(
                    "<h2>Deliveries</h2><table><tr><th>To<th>State<th class=\"n\">Delivered<th class=\"n\">Rejected</tr>");
            for (LegView leg : legs) {
                out.append("<tr><td class=\"data\">")
                        .append(text(leg.label()))
                        .append("<td>")
                        .append(words(leg.state()));
                cell(out, leg.tally().delivered());
                cell(out, leg.tally().rejected());
                out.append("</tr>");
            }
            out.append("</table>");
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

    private static void tally(StringBuilder out, Tally t) {
        out.append("<h2>Tally</h2><table><tr><th class=\"n\">Read<th class=\"n\">Delivered<th class=\"n\">Rejected");
        out.append(
                "<th class=\"n\">Set aside<th class=\"n\">Without rows<th class=\"n\">Rows added<th class=\"n\">Changed");
        out.append("<th class=\"n\">Unchanged<th class=\"n\">Removed<th class=\"n\">Notes</tr><tr>");
        for (long n : new long[] {
            t.read(),
            t.delivered(),
            t.rejected(),
            t.setAside(),
            t.withoutRows(),
            t.added(),
            t.changed(),
            t.unchanged(),
            t.removed(),
            t.notes()
        }) {
            cell(out, n);
        }
        out.append("</tr></table><p>");
        out.append(t.balances() ? "It balances: every record read is accounted for, once." : "It does not balance.");
        out.append("</p>");
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
        Tally t = run.tally();
        line(out, "run", String.valueOf(run.id()), "", "", run.title() + ", " + run.fileName() + ", " + state());
        figure(out, "read", t.read());
        figure(out, "delivered", t.delivered());
        figure(out, "rejected", t.rejected());
        figure(out, "set aside", t.setAside());
        figure(out, "without rows", t.withoutRows());
        figure(out, "rows added", t.added());
        figure(out, "rows changed", t.changed());
        figure(out, "rows unchanged", t.unchanged());
        figure(out, "rows removed", t.removed());
        figure(out, "notes", t.notes());
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

    private static void figure(StringBuilder out, String name, long n) {
        line(out, "tally", name, String.valueOf(n), "", "");
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
