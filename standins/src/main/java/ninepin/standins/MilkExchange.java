package ninepin.standins;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.Random;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;

/**
 * Writes the Milk Exchange's monthly workbook of prices as a spreadsheet would: a sheet for raw milk and one for cream, a title over
 * them, the header three lines down, a total at the end.
 */
public final class MilkExchange {

    private static final String[] CLASSES = {"Standard", "Mountain", "Organic"};
    private static final int HEADER = 3;
    /** A spreadsheet keeps fifteen digits; the last three of this number are gone. */
    private static final double LONG_REFERENCE = 202611004711000123d;

    private static final int BASE_PRICE = 4_180;

    private final Random random;
    private final boolean mistakes;

    /**
     * @param mistakes whether the planted mistakes are in: a letter O in a price, a price that is not there, a day as text, a contract
     *     number without its zeros, a reference too long for a number, a total that does not add up, a hidden row
     */
    public MilkExchange(long seed, boolean mistakes) {
        this.random = new Random(seed);
        this.mistakes = mistakes;
    }

    /**
     * Writes the prices of the first days of a month; the stream is not closed.
     *
     * @param days how many days
     */
    public void write(YearMonth month, int days, OutputStream out) throws IOException {
        try (Workbook book = new Workbook(new Kept(out), "Exchange", "1.0")) {
            rawMilk(book.newWorksheet("Raw milk"), month, days);
            cream(book.newWorksheet("Cream"), month, days);
        }
    }

    private static void begin(Worksheet sheet, String title, YearMonth month, String... header) {
        sheet.value(0, 0, "Milk Exchange: " + title);
        sheet.range(0, 0, 0, header.length - 1).merge();
        sheet.style(0, 0).bold().fontSize(14).set();
        sheet.value(1, 0, "Trading days of " + month + ", all made up");
        for (int c = 0; c < header.length; c++) {
            sheet.value(HEADER, c, header[c]);
            sheet.style(HEADER, c).bold().set();
            sheet.width(c, 14);
        }
        sheet.freezePane(0, HEADER + 1);
    }

    private void rawMilk(Worksheet sheet, YearMonth month, int days) {
        begin(sheet, "raw milk", month, "Day", "Class", "Tonnes", "Price", "Contract", "Reference");
        int row = HEADER;
        long tonnes = 0;
        for (int day = 1; day <= Math.min(days, month.lengthOfMonth()); day++) {
            for (int c = 0; c < CLASSES.length; c++) {
                row++;
                boolean first = mistakes && c == 0;
                int own = 40 + random.nextInt(160);
                tonnes += own;
                day(sheet, row, month.atDay(day), first && day == 5);
                sheet.value(row, 1, CLASSES[c]);
                sheet.value(row, 2, own);
                price(sheet, row, c, first && day == 3, first && day == 7);
                contract(sheet, row, first && day == 4);
                if (first && day == 6) {
                    sheet.value(row, 5, LONG_REFERENCE);
                } else {
                    sheet.value(row, 5, "R" + month.toString().replace("-", "") + (100 + row));
                }
                if (first && day == 2) {
                    sheet.hideRow(row);
                }
            }
        }
        sheet.value(row + 2, 0, "Total");
        sheet.value(row + 2, 2, mistakes ? tonnes - 10 : tonnes);
        sheet.value(row + 4, 0, "Prices are for 100 kg, without tax, and bind nobody.");
    }

    private static void day(Worksheet sheet, int row, LocalDate day, boolean asText) {
        if (asText) {
            sheet.value(row, 0, String.format("%td.%<tm.%<tY", day));
        } else {
            sheet.value(row, 0, day);
            sheet.style(row, 0).format("dd.mm.yyyy").set();
        }
    }

    private void price(Worksheet sheet, int row, int kind, boolean letter, boolean formula) {
        double price = (BASE_PRICE + kind * 450 + random.nextInt(300)) / 100.0;
        if (letter) {
            sheet.value(row, 3, String.valueOf(price).replace('0', 'O').replaceFirst("\\.", ".O"));
        } else if (formula) {
            // A formula without the value that it comes to.
            sheet.formula(row, 3, "D" + row + "*1");
        } else {
            sheet.value(row, 3, price);
            sheet.style(row, 3).format("0.00").set();
        }
    }

    private void contract(Worksheet sheet, int row, boolean asNumber) {
        int contract = 100 + random.nextInt(9_000);
        if (asNumber) {
            sheet.value(row, 4, contract);
            sheet.style(row, 4).format("00000").set();
        } else {
            sheet.value(row, 4, String.format("%05d", contract));
        }
    }

    private void cream(Worksheet sheet, YearMonth month, int days) {
        begin(sheet, "cream", month, "Day", "Fat %", "Tonnes", "Price");
        int row = HEADER;
        long tonnes = 0;
        for (int day = 1; day <= Math.min(days, month.lengthOfMonth()); day += 3) {
            row++;
            int own = 5 + random.nextInt(30);
            tonnes += own;
            day(sheet, row, month.atDay(day), false);
            sheet.value(row, 1, 30 + random.nextInt(12));
            sheet.value(row, 2, own);
            sheet.value(row, 3, (21_000 + random.nextInt(3_000)) / 100.0);
        }
        sheet.value(row + 1, 0, "Total");
        sheet.value(row + 1, 2, tonnes);
    }

    /** What writes workbooks closes its stream; this one goes on. */
    private static final class Kept extends FilterOutputStream {
        Kept(OutputStream out) {
            super(out);
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            out.write(bytes, from, length);
        }

        @Override
        public void close() throws IOException {
            flush();
        }
    }
}
