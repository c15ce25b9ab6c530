package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Properties;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;

/** Connections to MariaDB, and what its errors mean. */
public final class MariaDb {

    private static final String SQL_MODE = "STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,"
            + "ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO";

    private MariaDb() {}

    /** A connection with strict SQL mode, UTC as time zone and READ COMMITTED isolation. */
    public static Connection connect(DatabaseAddress address) throws TargetException {
        Properties properties = new Properties();
        properties.setProperty("user", address.user());
        properties.setProperty("password", address.password());
        properties.setProperty("allowLocalInfile", "true");
        // Affected rows, not matched ones: an unchanged row counts 0.
        properties.setProperty("useAffectedRows", "true");
        properties.setProperty("connectTimeout", "10000");
        properties.setProperty("tcpKeepAlive", "true");
        properties.setProperty("useServerPrepStmts", "false");
        properties.setProperty(
                "sessionVariables",
                "sql_mode='" + SQL_MODE + "',time_zone='+00:00',lock_wait_timeout=5,innodb_lock_wait_timeout=5");
        properties.setProperty("transactionIsolation", "READ-COMMITTED");
        String url = "jdbc:mariadb://" + host(address.host()) + ":" + address.port() + "/" + address.database();
        try {
            return DriverManager.getConnection(url, properties);
        } catch (SQLException e) {
            throw explain(e, "connect to " + address);
        }
    }

    /** A value as the server writes it. The driver's own text loses zeros at the start of a fraction of a second. */
    public static String text(ResultSet row, int column) throws SQLException {
        if (row.getMetaData().getColumnType(column) != Types.TIMESTAMP) {
            return row.getString(column);
        }
        LocalDateTime at = row.getObject(column, LocalDateTime.class);
        int digits = row.getMetaData().getScale(column);
        return at == null
                ? null
                : at.toLocalDate() + " "
                        + at.toLocalTime()
                                .format(DateTimeFormatter.ofPattern(
                                        "HH:mm:ss" + (digits > 0 ? "." + "S".repeat(Math.min(digits, 9)) : "")));
    }

    private static String host(String host) {
        return host.contains(":") ? "[" + host + "]" : host;
    }

    /** An identifier in backquotes, fit to stand in a statement. */
    static String quoted(String identifier) {
        return "`" + identifier.replace("`", "``") + "`";
    }

    static boolean isBusy(SQLException e) {
        return e.getErrorCode() == 1205 || e.getErrorCode() == 1213 || e.getErrorCode() == 1020;
    }

    /** Whether the statement failed for what stands in the rows, so that other rows may still load. */
    static boolean isAboutRows(SQLException e) {
        String state = e.getSQLState() == null ? "" : e.getSQLState();
        return !isBusy(e)
                && (state.startsWith("22")
                        || state.startsWith("23")
                        || state.startsWith("45")
                        || e.getErrorCode() == 1366
                        || e.getErrorCode() == 1364
                        || e.getErrorCode() == 4025);
    }

    /** What an error of the server means to the person who has to mend it. */
    public static TargetException explain(SQLException e, String doing) {
        String words = "Could not " + doing + ": ";
        if (isBusy(e)) {
            return new TargetException(
                    TargetException.Kind.BUSY,
                    "DBS-05",
                    words + "another transaction holds the rows. Restart the run when it has ended. (" + reason(e)
                            + ")",
                    e);
        }
        String code;
        String advice;
        switch (e.getErrorCode()) {
            case 1045, 1044, 1698, 1130 -> {
                code = "DBS-02";
                advice =
                        "the server refuses the login or the right. Check user, password and grants of the connection.";
            }
            case 1049 -> {
                code = "DBS-03";
                advice = "there is no such database. Check the connection.";
            }
            case 1146, 1051 -> {
                code = "DBS-04";
                advice = "the table is not there. Check the delivery, or whether the table was dropped or renamed.";
            }
            case 1142, 1143, 1370, 1227 -> {
                code = "DBS-06";
                advice = "the user lacks a right. Grant it SELECT, INSERT, UPDATE and CREATE on the target.";
            }
            case 1021, 1114, 3 -> {
                code = "DBS-07";
                advice = "the server has no room left. Make room and restart the run.";
            }
            default -> {
                boolean away = e.getSQLState() != null && e.getSQLState().startsWith("08");
                code = away ? "DBS-01" : "DBS-09";
                advice = away
                        ? "the server does not answer. Restart the run when it does."
                        : "the server refused the statement.";
            }
        }
        return new TargetException(TargetException.Kind.UNUSABLE, code, words + advice + " (" + reason(e) + ")", e);
    }

    /** The server's own words, without the driver's decoration. */
    static String reason(SQLException e) {
        String message = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return message.replaceFirst("^\\(conn[^)]*\\) ?", "").strip();
    }
}
