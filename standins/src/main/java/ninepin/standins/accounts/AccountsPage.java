package ninepin.standins.accounts;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;

/** The page of Farm Accounts: its switches, and what is booked, the latest first. */
final class AccountsPage {

    private static final int SHOWN = 200;

    private AccountsPage() {}

    static String of(List<Voucher.Booked> booked, Switches now, long requests) {
        StringBuilder out = new StringBuilder(
                """
                <!doctype html><html lang="en"><head><meta charset="utf-8"><title>Farm Accounts</title><style>
                body{font:15px/1.45 system-ui,sans-serif;margin:2rem auto;max-width:62rem;padding:0 1rem;color:#2b2118;background:#f4efe6}
                h1{margin:0;font-size:1.5rem}p{margin:.3rem 0 1rem;color:#5c5046}
                form{display:flex;flex-wrap:wrap;gap:1rem;align-items:end;padding:1rem;background:#fffaf0;border:1px solid #cfc3b0}
                label{display:flex;flex-direction:column;font-size:.85rem;gap:.2rem}input{width:7rem;font:inherit;padding:.2rem .4rem}
                button{font:inherit;padding:.35rem 1rem;background:#5b3a1e;color:#fff;border:0;cursor:pointer}
                table{border-collapse:collapse;width:100%;margin-top:1.2rem;background:#fffaf0}
                th,td{text-align:left;padding:.3rem .6rem;border-bottom:1px solid #ddd2c0}td.n,th.n{text-align:right;font-variant-numeric:tabular-nums}
                </style></head><body><h1>Farm Accounts</h1><p>A stand-in for an accounts application.
                """);
        out.append(booked.size())
                .append(" vouchers are booked; it was asked ")
                .append(requests)
                .append(" times since it started.</p><form method=\"post\" action=\"/switches\">");
        input(out, "slow", "Answers after (ms)", now.slowMillis());
        input(out, "fail", "Fails (%)", now.failPercent());
        input(out, "busy", "Asks to wait (%)", now.busyPercent());
        input(out, "refuse", "Refuses (%)", now.refusePercent());
        out.append("<button>Set</button></form><table><thead><tr><th>Booked as<th>Voucher<th>Day<th>Farm")
                .append("<th class=\"n\">Lines<th class=\"n\">Debit<th class=\"n\">Credit<th>At</tr></thead><tbody>");
        for (int i = booked.size() - 1; i >= Math.max(0, booked.size() - SHOWN); i--) {
            row(out, booked.get(i));
        }
        return out.append("</tbody></table></body></html>").toString();
    }

    private static void row(StringBuilder out, Voucher.Booked b) {
        Voucher v = b.voucher();
        out.append("<tr><td>").append(b.accountNumber()).append("<td>").append(text(v.number()));
        out.append("<td>").append(v.bookedOn()).append("<td>").append(v.farm());
        out.append("<td class=\"n\">").append(v.lines().size());
        out.append("<td class=\"n\">").append(total(v, Voucher.Line::debit));
        out.append("<td class=\"n\">").append(total(v, Voucher.Line::credit));
        out.append("<td>").append(b.bookedAt()).append("</tr>");
    }

    private static BigDecimal total(Voucher v, Function<Voucher.Line, BigDecimal> of) {
        return v.lines().stream().map(of).filter(Objects::nonNull).reduce(BigDecimal.ZERO, BigDecimal::add);
    }

    private static void input(StringBuilder out, String name, String label, int value) {
        out.append("<label>")
                .append(label)
                .append("<input type=\"number\" min=\"0\" name=\"")
                .append(name);
        out.append("\" value=\"").append(value).append("\"></label>");
    }

    private static String text(String raw) {
        return raw.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
    }

    /** The whole numbers of a form, by name. */
    static Map<String, Integer> numbers(String form) {
        Map<String, Integer> numbers = new HashMap<>();
        for (String part : form.split("&")) {
            String[] both = part.split("=", 2);
            if (both.length == 2 && both[1].matches("\\d{1,6}")) {
                numbers.put(both[0], Integer.parseInt(both[1]));
            }
        }
        return numbers;
    }
}
